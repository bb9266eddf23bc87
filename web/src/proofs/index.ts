import { later } from "../ui/later";

export const ProofsPage = later(() => import("./ProofsPage").then((m) => m.ProofsPage));
