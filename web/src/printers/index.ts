export { PrintersPage } from "./PrintersPage";
