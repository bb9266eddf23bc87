import { later } from "../ui/later";

export const PathsPage = later(() => import("./PathsPage").then((m) => m.PathsPage));
