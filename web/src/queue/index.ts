export { QueuePage } from "./QueuePage";
