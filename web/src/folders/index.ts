export { FoldersPage } from "./FoldersPage";
