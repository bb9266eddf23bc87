/** A session that ended while one works: calls wait here until somebody has signed in again. */

let waiting: (() => void)[] = [];
const listeners = new Set<() => void>();
const tell = () => listeners.forEach((listen) => listen());

/** Resolves once somebody has signed in again; shows the sign-in over the page until then. */
export function signedInAgain(): Promise<void> {
  return new Promise((resolve) => {
    waiting = [...waiting, resolve];
    tell();
  });
}

/** Lets every waiting call go on. */
export function goOn(): void {
  const calls = waiting;
  waiting = [];
  tell();
  calls.forEach((call) => call());
}

export const isWaiting = () => waiting.length > 0;

export function onWaiting(listen: () => void): () => void {
  listeners.add(listen);
  return () => {
    listeners.delete(listen);
  };
}
