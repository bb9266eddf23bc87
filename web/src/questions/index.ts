import { later } from "../ui/later";

export const QuestionsPage = later(() => import("./QuestionsPage").then((m) => m.QuestionsPage));
