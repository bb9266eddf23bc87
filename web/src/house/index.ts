export { HouseRulesPage } from "./HouseRulesPage";
