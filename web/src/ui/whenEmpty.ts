/** What stands where rows would: nothing is called empty that is not known yet, or could not be read. */
export const whenEmpty = (asked: { isPending: boolean; isError: boolean }, none: string) =>
  asked.isPending ? "Reading…" : asked.isError ? "This could not be read." : none;
