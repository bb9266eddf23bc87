export { App } from "./App";
export { Shell } from "./Shell";
export { Explained } from "./Explained";
export { Notice } from "./Notice";
export { Sentence } from "./Sentence";
export { Pick } from "./Pick";
export { SideList } from "./SideList";
