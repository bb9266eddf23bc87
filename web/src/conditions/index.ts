import { later } from "../ui/later";

export { Reading } from "./Reading";
export const NewConditionDialog = later(() =>
  import("./NewConditionDialog").then((m) => m.NewConditionDialog),
);
export const ConditionsPage = later(() => import("./ConditionsPage").then((m) => m.ConditionsPage));
