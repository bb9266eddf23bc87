import { later } from "../ui/later";

export const JobPage = later(() => import("./JobPage").then((m) => m.JobPage));
export const JobsPage = later(() => import("./JobsPage").then((m) => m.JobsPage));
