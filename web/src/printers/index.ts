import { later } from "../ui/later";

export const PrintersPage = later(() => import("./PrintersPage").then((m) => m.PrintersPage));
