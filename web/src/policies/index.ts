export { PoliciesPage } from "./PoliciesPage";
