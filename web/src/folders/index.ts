import { later } from "../ui/later";

export const FoldersPage = later(() => import("./FoldersPage").then((m) => m.FoldersPage));
