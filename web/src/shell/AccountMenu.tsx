import { Box, ButtonBase, Divider, Menu, MenuItem } from "@mui/material";
import { useState } from "react";
import { useNavigate } from "react-router";

import { useSession } from "../queries/useSession";
import { useSignOut } from "../queries/useSignOut";
import { useAppearance } from "../theme";
import { ShortcutSheet } from "./ShortcutSheet";

/** The signed-in name, appearance and sign-out. */
export function AccountMenu() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const session = useSession();
  const navigate = useNavigate();
  const signOut = useSignOut();
  const { dark, setDark, sentences, setSentences } = useAppearance();
  const close = () => setAnchor(null);
  const [keys, setKeys] = useState(false);
  return (
    <>
      <ButtonBase
        onClick={(e) => setAnchor(e.currentTarget)}
        aria-haspopup="menu"
        sx={{ px: 1, height: 30, fontSize: 13, gap: 0.75 }}
      >
        {session.data?.username ?? ""}
        <Box
          component="span"
          aria-hidden
          sx={{
            width: 0,
            height: 0,
            borderLeft: "4px solid transparent",
            borderRight: "4px solid transparent",
            borderTop: "5px solid currentColor",
          }}
        />
      </ButtonBase>
      <Menu anchorEl={anchor} open={Boolean(anchor)} onClose={close}>
        <MenuItem onClick={() => setDark(!dark)}>{dark ? "Light room" : "Dark room"}</MenuItem>
        <MenuItem onClick={() => setSentences(!sentences)}>
          {sentences ? "Hide explaining sentences" : "Show explaining sentences"}
        </MenuItem>
        <Divider />
        <MenuItem
          onClick={() => {
            close();
            setKeys(true);
          }}
        >
          Keys…
        </MenuItem>
        <MenuItem
          onClick={() => {
            close();
            void navigate("/words");
          }}
        >
          Words and figures
        </MenuItem>
        <MenuItem
          onClick={() => {
            close();
            void navigate("/methods");
          }}
        >
          Methods: how it is computed
        </MenuItem>
        <MenuItem
          onClick={() => {
            close();
            void navigate("/account");
          }}
        >
          Access for scripts…
        </MenuItem>
        <Divider />
        <MenuItem
          onClick={() => {
            close();
            signOut.mutate();
          }}
        >
          Sign out
        </MenuItem>
      </Menu>
      <ShortcutSheet open={keys} onOpen={setKeys} />
    </>
  );
}
