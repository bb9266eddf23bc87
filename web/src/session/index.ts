export { SignIn } from "./SignIn";
export { useSession } from "./useSession";
export { useSignOut } from "./useSignOut";
