import { createTheme, type Theme } from "@mui/material/styles";

/** Paper by day, lamplight at dusk; the inks of drawings and curves. */
export interface Ink {
  paper: string;
  raised: string;
  ink: string;
  soft: string;
  rule: string;
  sun: string;
  sky: string;
  stop: string;
  rust: string;
  honey: string;
  plum: string;
  water: string;
  glass: string;
  foam: string;
  wood: string;
  twin: string;
}

const DAY: Ink = {
  paper: "#FAF6EC",
  raised: "#FFFDF6",
  ink: "#22201C",
  soft: "#514B40",
  rule: "#D8CFBC",
  sun: "#C97800",
  sky: "#E9C98A",
  stop: "#8F1D1D",
  rust: "#8E2C15",
  honey: "#6E5200",
  plum: "#5B3F6C",
  water: "#1F6F8B",
  glass: "#2E6E7E",
  foam: "#F1E3B8",
  wood: "#DCC39C",
  twin: "#3B3A78",
};

const DUSK: Ink = {
  paper: "#1D1B18",
  raised: "#262320",
  ink: "#EFE7D6",
  soft: "#CFC4AE",
  rule: "#4A443A",
  sun: "#FFB13D",
  sky: "#8A6A2F",
  stop: "#FFA79A",
  rust: "#FF9C7F",
  honey: "#F2CC5E",
  plum: "#D9BCEB",
  water: "#7CC7E0",
  glass: "#9ED3DF",
  foam: "#4A4128",
  wood: "#5A4630",
  twin: "#BDBBFF",
};

declare module "@mui/material/styles" {
  interface Theme {
    ink: Ink;
  }
  interface ThemeOptions {
    ink?: Ink;
  }
}

export const SLAB = '"Bitter Variable", Georgia, serif';
export const BODY = '"Atkinson Hyperlegible Next Variable", Verdana, sans-serif';

/** Written from the end to the beginning of a line? */
const direction = globalThis.document?.documentElement.dir === "rtl" ? "rtl" : "ltr";

export function makeTheme(dusk: boolean): Theme {
  const ink = dusk ? DUSK : DAY;
  return createTheme({
    ink,
    direction,
    palette: {
      mode: dusk ? "dark" : "light",
      primary: { main: ink.ink, contrastText: ink.paper },
      error: { main: ink.stop },
      background: { default: ink.paper, paper: ink.raised },
      text: { primary: ink.ink, secondary: ink.soft },
      divider: ink.rule,
    },
    shape: { borderRadius: 3 },
    typography: {
      fontFamily: BODY,
      fontSize: 14,
      h1: { fontFamily: SLAB, fontSize: "1.5rem", fontWeight: 650, lineHeight: 1.25 },
      h2: { fontFamily: SLAB, fontSize: "1.0625rem", fontWeight: 650, lineHeight: 1.3 },
      h3: { fontFamily: SLAB, fontSize: "0.9375rem", fontWeight: 650, lineHeight: 1.3 },
      button: { textTransform: "none", fontWeight: 600 },
    },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          ":root": { ...Object.fromEntries(Object.entries(ink).map(([name, colour]) => [`--${name}`, colour])), "--slab": SLAB },
          body: { fontVariantNumeric: "tabular-nums" },
          ":root *:focus-visible": { outline: `3px solid ${ink.sun}`, outlineOffset: 1 },
          "@media (prefers-reduced-motion: reduce)": { "*": { animation: "none !important", transition: "none !important" } },
        },
      },
      MuiButton: {
        defaultProps: { disableElevation: true, variant: "outlined", size: "small" },
        styleOverrides: {
          root: {
            "&.MuiButton-outlined:not(.Mui-disabled)": { borderColor: ink.soft },
            "&.MuiButton-text:not(.plain)": { textDecoration: "underline", textDecorationColor: ink.soft, textUnderlineOffset: 3 },
            // Chosen is a state of a thing, not the thing to do: a shaded key with a heavy foot, never the filled one.
            '&[aria-pressed="true"], &[aria-expanded="true"].MuiButton-outlined, &[aria-expanded="true"].MuiButton-contained': {
              background: `color-mix(in oklab, ${ink.ink} 13%, ${ink.paper})`, color: ink.ink, borderColor: ink.ink, boxShadow: `inset 0 -3px 0 ${ink.ink}`, fontWeight: 750,
              "&:hover": { background: `color-mix(in oklab, ${ink.ink} 20%, ${ink.paper})` },
            },
          },
        },
      },
      MuiOutlinedInput: { styleOverrides: { notchedOutline: { borderColor: ink.soft } } },
      MuiCheckbox: { defaultProps: { color: "default" }, styleOverrides: { root: { color: ink.ink, "&.Mui-checked": { color: ink.ink } } } },
      MuiLink: { styleOverrides: { root: { color: ink.ink, textDecorationColor: ink.soft } } },
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiTextField: { defaultProps: { size: "small", variant: "outlined", fullWidth: true } },
      MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: "none" } } },
      MuiInputLabel: { styleOverrides: { root: { color: ink.soft, "&.Mui-focused": { color: ink.ink } } } },
      MuiFormHelperText: { styleOverrides: { root: { color: ink.soft, marginInlineStart: 2 } } },
      MuiDrawer: { styleOverrides: { paper: { border: `1px solid ${ink.rule}` } } },
    },
  });
}
