/**
 * The address of a job's page with one part of it changed, from where the browser is by now: a key
 * pressed in the moment before a chosen condition is drawn must not lead back to the former one.
 */
export function placeWith(part: { destination?: number; stage?: string }): string {
  const [, , job, destination, stage] = window.location.pathname.split("/");
  return `/jobs/${job}/${part.destination ?? destination}/${part.stage ?? (stage || "press-view")}`;
}
