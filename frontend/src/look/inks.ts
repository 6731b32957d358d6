import { useTheme } from "@mui/material";
import type { components } from "../api/schema";

type Accent = components["schemas"]["Accent"];
type InkName = components["schemas"]["AccountView"]["ink"];
export type Look = components["schemas"]["CurveLook"];
export interface Drawn {
  colour: string;
  width: number;
  dash?: string;
}

/** Mixes the inks that the core names, by day and at dusk; a kind's own is its accent. */
export function useInks(accent: Accent): (ink: InkName) => string {
  const { ink: inks, palette } = useTheme();
  return (ink) => (ink === "accent" ? (palette.mode === "dark" ? accent.dusk : accent.day) : inks[ink]);
}

/** How a curve is drawn: colour, width and dashes. */
export function useDrawn(accent: Accent): (look: Look) => Drawn {
  const inkOf = useInks(accent);
  return (look) => ({ colour: inkOf(look.ink), width: look.width, ...(look.dash ? { dash: look.dash } : {}) });
}
