export { JobPage } from "./JobPage";
export { JobsPage } from "./JobsPage";
