/** What signing in needs; said once a field was left empty. */
export const needed = (draft: { username: string; password: string }) => ({
  ...(!draft.username && { username: "A name is needed." }),
  ...(!draft.password && { password: "A password is needed." }),
});
