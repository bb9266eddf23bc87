export { Reading } from "./Reading";
export { NewConditionDialog } from "./NewConditionDialog";
export { ConditionsPage } from "./ConditionsPage";
