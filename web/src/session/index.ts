export { SignIn } from "./SignIn";
export { useSession } from "./useSession";
export { useSignOut } from "./useSignOut";
export { AccountPage } from "./AccountPage";
export { FirstRun } from "./FirstRun";
