import { createTheme } from "@mui/material";

/** Plinto's own look: achromatic, square, dense, one typeface with tabular figures. */
export function buildTheme(dark: boolean) {
  const ink = dark ? "#f0f0f0" : "#1b1b1b";
  const paper = dark ? "#1f1f1f" : "#ffffff";
  const ground = dark ? "#181818" : "#f5f5f5";
  const line = dark ? "#3d3d3d" : "#cfcfcf";
  const quiet = dark ? "#b4b4b4" : "#565656";
  const focus = { outline: `2px solid ${ink}`, outlineOffset: 2 };
  return createTheme({
    palette: {
      mode: dark ? "dark" : "light",
      primary: { main: ink, contrastText: paper },
      secondary: { main: quiet },
      error: { main: ink },
      warning: { main: ink },
      info: { main: ink },
      success: { main: ink },
      text: { primary: ink, secondary: quiet },
      background: { default: ground, paper },
      divider: line,
    },
    shape: { borderRadius: 0 },
    spacing: 8,
    shadows: Array.from({ length: 25 }, () => "none") as never,
    typography: {
      fontFamily: '"Archivo Variable", sans-serif',
      fontSize: 13,
      body1: { fontSize: 13, lineHeight: 1.45 },
      body2: { fontSize: 12, lineHeight: 1.45 },
      caption: { fontSize: 11.5, lineHeight: 1.35 },
      h1: { fontSize: 20, fontWeight: 700, letterSpacing: "-0.01em" },
      h2: { fontSize: 13, fontWeight: 700 },
      h3: { fontSize: 12, fontWeight: 650 },
      button: { fontSize: 12.5, fontWeight: 600, textTransform: "none" },
    },
    components: {
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        styleOverrides: {
          root: { fontFamily: "inherit", "&.Mui-focusVisible, &:focus-visible": focus },
        },
      },
      MuiButton: {
        defaultProps: { disableElevation: true, variant: "outlined" },
        styleOverrides: {
          root: {
            minHeight: 30,
            minWidth: 0,
            padding: "3px 12px",
            borderColor: ink,
            whiteSpace: "nowrap",
          },
          contained: {
            "&:hover:not(.Mui-disabled)": { backgroundColor: dark ? "#ffffff" : "#000000" },
          },
        },
      },
      MuiTextField: { defaultProps: { size: "small", fullWidth: true } },
      MuiInputBase: {
        styleOverrides: {
          root: { "&.Mui-focused:has(:focus-visible)": focus },
          input: { "&:focus-visible": { outline: "none" } },
        },
      },
      MuiSelect: {
        defaultProps: { size: "small" },
        styleOverrides: { select: { "&:focus-visible": focus } },
      },
      MuiNativeSelect: { styleOverrides: { select: { "&:focus-visible": { outline: "none" } } } },
      MuiMenuItem: {
        styleOverrides: {
          root: {
            fontSize: 13,
            minHeight: 30,
            "&.Mui-focusVisible": { ...focus, outlineOffset: -2 },
          },
        },
      },
      MuiOutlinedInput: {
        styleOverrides: {
          root: { fontSize: 13, backgroundColor: paper },
          input: { padding: "6px 9px" },
          notchedOutline: { borderColor: quiet },
        },
      },
      MuiPaper: { styleOverrides: { root: { backgroundImage: "none" } } },
      // What opens stands where it opens at once: nothing moves away under the pointer.
      MuiPopover: { defaultProps: { transitionDuration: 0 } },
      MuiMenu: {
        defaultProps: { transitionDuration: 0 },
        styleOverrides: { paper: { border: `1px solid ${ink}` } },
      },
      MuiTooltip: {
        defaultProps: { arrow: false, enterDelay: 350, placement: "top-start" },
        styleOverrides: {
          tooltip: {
            backgroundColor: ink,
            color: paper,
            fontSize: 12,
            maxWidth: 320,
            padding: "7px 10px",
            fontWeight: 450,
          },
        },
      },
      MuiSlider: {
        styleOverrides: {
          root: { height: 2, padding: "11px 0" },
          thumb: {
            width: 9,
            height: 19,
            borderRadius: 0,
            "&::before": { boxShadow: "none" },
            "&:hover": { boxShadow: `0 0 0 3px ${line}` },
            "&.Mui-focusVisible": { ...focus, boxShadow: "none" },
          },
          rail: { opacity: 1, backgroundColor: line },
          track: { border: 0 },
        },
      },
      MuiSwitch: {
        defaultProps: { disableRipple: true },
        styleOverrides: {
          root: { width: 32, height: 18, padding: 0, "&:has(:focus-visible)": focus },
          switchBase: {
            padding: 0,
            margin: 4,
            color: ink,
            "&.Mui-checked": {
              transform: "translateX(14px)",
              color: paper,
              "& + .MuiSwitch-track": { backgroundColor: ink, opacity: 1 },
            },
          },
          thumb: { width: 10, height: 10, borderRadius: 0, boxShadow: "none" },
          track: {
            borderRadius: 0,
            backgroundColor: paper,
            border: `1px solid ${ink}`,
            opacity: 1,
          },
        },
      },
      MuiLinearProgress: {
        styleOverrides: {
          root: { height: 6, backgroundColor: line },
          bar: { backgroundColor: ink },
        },
      },
      MuiDialog: {
        defaultProps: { transitionDuration: 0 },
        styleOverrides: { paper: { border: `1px solid ${ink}` } },
      },
    },
  });
}
