import { later } from "../ui/later";

export const GamutsPage = later(() => import("./GamutsPage").then((m) => m.GamutsPage));
