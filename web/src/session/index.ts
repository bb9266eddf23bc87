import { later } from "../ui/later";

export { SignInOver } from "./SignInOver";
export const AccountPage = later(() => import("./AccountPage").then((m) => m.AccountPage));
export const FirstRun = later(() => import("./FirstRun").then((m) => m.FirstRun));
export const SignIn = later(() => import("./SignIn").then((m) => m.SignIn));
