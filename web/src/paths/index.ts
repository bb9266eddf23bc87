import { later } from "../ui/later";

export const PathsPage = later(() => import("./PathsPage").then((m) => m.PathsPage));
export const NewListDialog = later(() => import("./NewListDialog").then((m) => m.NewListDialog));
