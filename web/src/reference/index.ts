import { later } from "../ui/later";

export const MethodsPage = later(() => import("./MethodsPage").then((m) => m.MethodsPage));
export const WordsPage = later(() => import("./WordsPage").then((m) => m.WordsPage));
