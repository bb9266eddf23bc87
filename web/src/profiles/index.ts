export { ProfilePage } from "./ProfilePage";
export { ProfilesPage } from "./ProfilesPage";
