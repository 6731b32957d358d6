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

interface Series {
  curves: { node: string; title: string; look: Look; temperature_c: (number | null)[] }[];
  air_c: number[];
}

/** A run's curves and the air outside as lines of a chart, at their instants. */
export function useLines(accent: Accent): (run: Series, at: number[]) => (Drawn & { key: string; title: string; points: { at: number; value: number | null }[] })[] {
  const drawn = useDrawn(accent);
  const { ink } = useTheme();
  const points = (values: (number | null)[], at: number[]) => values.map((value, i) => ({ at: at[i]!, value }));
  return (run, at) => [
    ...run.curves.map((c) => ({ key: c.node, title: c.title, ...drawn(c.look), points: points(c.temperature_c, at) })),
    { key: "air", title: "air outside", colour: ink.soft, width: 1, points: points(run.air_c, at) },
  ];
}

/** How a curve is drawn: colour, width and dashes. */
export function useDrawn(accent: Accent): (look: Look) => Drawn {
  const inkOf = useInks(accent);
  return (look) => ({ colour: inkOf(look.ink), width: look.width, ...(look.dash ? { dash: look.dash } : {}) });
}
