import type { PathStep } from "../api";
import type { Following, Rows } from "../queries/paths";
import { useAddress } from "../ui/useAddress";
import { stepCode, stepOf } from "./steps";

/** Everything that decides what the page shows; it stands in the address, so that it can be shared and
 * gone back to. */
export interface PathState extends Following {
  first: number;
  second: number;
  formula: Rows["formula"];
  kept: number | null;
}

const whole = (text: string | null) =>
  text !== null && /^\d{1,9}$/.test(text) ? Number(text) : null;

/** What an address says; missing parts have their defaults. */
export function readState(params: URLSearchParams): PathState {
  const steps = params
    .getAll("step")
    .map(stepOf)
    .filter((s): s is PathStep => s !== null)
    .slice(0, 12);
  const last = Math.max(0, steps.length - 1);
  return {
    steps,
    list: whole(params.get("list")),
    job: whole(params.get("job")),
    view: params.get("view") === "absolute" ? "absolute" : "paper",
    first: Math.min(last, whole(params.get("from")) ?? 0),
    second: Math.min(last, whole(params.get("to")) ?? last),
    formula: (params.get("formula") ?? "2000") as Rows["formula"],
    kept: whole(params.get("kept")),
  };
}

/** The address of a state; what is as by default is left out. */
export function writeState(state: PathState): URLSearchParams {
  const params = new URLSearchParams();
  if (state.list !== null) params.set("list", String(state.list));
  if (state.job !== null) params.set("job", String(state.job));
  for (const step of state.steps) params.append("step", stepCode(step));
  const last = Math.max(0, state.steps.length - 1);
  if (state.first !== 0) params.set("from", String(state.first));
  if (state.second !== last) params.set("to", String(state.second));
  if (state.view !== "paper") params.set("view", state.view);
  if (state.formula !== "2000") params.set("formula", state.formula);
  if (state.kept !== null) params.set("kept", String(state.kept));
  return params;
}

export function usePath(): [PathState, (change: Partial<PathState>) => void] {
  const [params, write] = useAddress();
  const change = (part: Partial<PathState>) =>
    write((now) => writeState({ ...readState(now), ...part }));
  return [readState(params), change];
}
