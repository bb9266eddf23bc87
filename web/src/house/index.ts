import { later } from "../ui/later";

export const HouseRulesPage = later(() => import("./HouseRulesPage").then((m) => m.HouseRulesPage));
