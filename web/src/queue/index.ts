import { later } from "../ui/later";

export const QueuePage = later(() => import("./QueuePage").then((m) => m.QueuePage));
export { type Printable, Sending, SendOn } from "./SendOn";
