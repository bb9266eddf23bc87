import type { Said } from "./types";

/** A sentence as the core would say it, for what is not asked of it. */
export const said = (text: string, remedy = ""): Said => ({ code: "", values: {}, text, remedy });
