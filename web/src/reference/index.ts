export { MethodsPage } from "./MethodsPage";
export { WordsPage } from "./WordsPage";
