import { later } from "../ui/later";

export const PoliciesPage = later(() => import("./PoliciesPage").then((m) => m.PoliciesPage));
