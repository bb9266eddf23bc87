export { NewConditionDialog } from "./NewConditionDialog";
