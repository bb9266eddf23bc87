import { later } from "../ui/later";

export const ProfilePage = later(() => import("./ProfilePage").then((m) => m.ProfilePage));
export const ProfilesPage = later(() => import("./ProfilesPage").then((m) => m.ProfilesPage));
