import type { Sought } from "../queries/spots";
import { useAddress } from "../ui/useAddress";

/** What the page shows; it stands in the address, so that it can be shared and gone back to. */
export interface SpotState extends Sought {
  /** ΔE00 up to which a miss is fine. */
  fine: number;
  /** Conditions that are left out. */
  without: number[];
}

const amount = (text: string | null, low: number, high: number, usual: number) => {
  const value = text === null || text === "" ? NaN : Number(text);
  return value >= low && value <= high ? value : usual;
};

/** What an address says; missing parts and nonsense have their defaults. */
export function readSought(params: URLSearchParams): SpotState {
  const list = amount(params.get("list"), 1, 1e9, 0);
  const colour = params.get("colour")?.slice(0, 80) ?? "";
  return {
    list: list > 0 ? Math.floor(list) : null,
    colour: list > 0 ? "" : colour,
    inks: Math.round(amount(params.get("inks"), 1, 4, 3)),
    gain: amount(params.get("gain"), 0, 20, 0.5),
    least: params.has("least") ? amount(params.get("least"), 0, 50, 0) : null,
    white: params.get("white") === "relative" ? "relative" : "absolute",
    fine: amount(params.get("fine"), 0.1, 50, 2),
    without: (params.get("without") ?? "")
      .split(",")
      .filter((t) => /^\d+$/.test(t))
      .map(Number),
  };
}

/** The address of a state; what is as by default is left out. */
export function writeSought(state: SpotState): URLSearchParams {
  const params = new URLSearchParams();
  if (state.list !== null) params.set("list", String(state.list));
  else if (state.colour) params.set("colour", state.colour);
  if (state.inks !== 3) params.set("inks", String(state.inks));
  if (state.gain !== 0.5) params.set("gain", String(state.gain));
  if (state.least !== null) params.set("least", String(state.least));
  if (state.white !== "absolute") params.set("white", state.white);
  if (state.fine !== 2) params.set("fine", String(state.fine));
  if (state.without.length > 0) params.set("without", state.without.join(","));
  return params;
}

export function useSought(): [SpotState, (change: Partial<SpotState>) => void] {
  const [params, write] = useAddress();
  const change = (part: Partial<SpotState>) =>
    write((now) => writeSought({ ...readSought(now), ...part }));
  return [readSought(params), change];
}

/** Whether a typed colour is one of the screen, whose white is the paper's. */
export const ofScreen = (text: string) => /^\s*(#|rgb|[0-9a-f]{6}\s*$)/i.test(text);
