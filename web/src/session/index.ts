export { SignIn } from "./SignIn";
export { SignInOver } from "./SignInOver";
export { AccountPage } from "./AccountPage";
export { FirstRun } from "./FirstRun";
