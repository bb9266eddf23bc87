import { later } from "../ui/later";

export const SpotsPage = later(() => import("./SpotsPage").then((m) => m.SpotsPage));
