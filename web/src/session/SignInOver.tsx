import { useSyncExternalStore } from "react";

import { isWaiting, onWaiting } from "../api/signedIn";
import { later } from "../ui/later";

const SignInAgain = later(() => import("./SignInAgain").then((m) => m.SignInAgain));

/** Asks for the sign-in over whatever page is open, as soon as a session has ended. */
export function SignInOver() {
  return useSyncExternalStore(onWaiting, isWaiting) ? <SignInAgain /> : null;
}
