import { CssBaseline, GlobalStyles, ThemeProvider } from "@mui/material";
import { type ReactNode, useMemo, useState } from "react";

import { AppearanceContext, stored } from "./appearance";
import { buildTheme } from "./buildTheme";

export function PlintoTheme({ children }: { children: ReactNode }) {
  const [dark, setDark] = useState(() => stored("plinto.dark", false));
  const [sentences, setSentences] = useState(() => stored("plinto.sentences", true));
  const appearance = useMemo(
    () => ({
      dark,
      setDark: (value: boolean) => {
        localStorage.setItem("plinto.dark", value ? "yes" : "no");
        setDark(value);
      },
      sentences,
      setSentences: (value: boolean) => {
        localStorage.setItem("plinto.sentences", value ? "yes" : "no");
        setSentences(value);
      },
    }),
    [dark, sentences],
  );
  const theme = useMemo(() => buildTheme(dark), [dark]);
  return (
    <AppearanceContext value={appearance}>
      <ThemeProvider theme={theme}>
        <CssBaseline />
        <GlobalStyles
          styles={{
            "html, body, #root": { height: "100%" },
            body: { fontVariantNumeric: "tabular-nums", overflow: "hidden" },
            "*:focus-visible": {
              outline: `2px solid ${theme.palette.text.primary}`,
              outlineOffset: 1,
            },
            "@media (prefers-reduced-motion: reduce)": {
              "*": { transition: "none !important", animation: "none !important" },
            },
          }}
        />
        {children}
      </ThemeProvider>
    </AppearanceContext>
  );
}
