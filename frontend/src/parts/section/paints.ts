import type { Section } from "../../api/client";
import type { Ink } from "../../look/theme";

/** How a part is drawn: its fill, its outline. What a thing is painted, it is by day and at dusk. */
type InkName = Section["shapes"][number]["ink"];
export interface Stroke {
  colour: string;
  width: number;
  dash?: string;
}

/** Colours of things, not of the page. */
const BLACK = "#1B1916";
const PALE = "#F1E3B8";
const [INK_ON_PALE, PAPER_ON_BLACK] = ["#22201C", "#FAF6EC"];

type Painted = Pick<Section["shapes"][number], "ink" | "takes_up">;
/** Paint that takes up more of the sun than this wants light words on it. */
const DARK = 0.6;

/** A paint as dark as it is; nothing where that is not known. */
export function paintOf({ ink, takes_up }: Painted): string | undefined {
  if (takes_up !== null && takes_up !== undefined) return `color-mix(in oklab, ${BLACK} ${Math.round(100 * takes_up)}%, ${PALE})`;
  return { black: BLACK, pale: PALE }[ink as string];
}

/** What a part's words stand on, and their own colour: that of the paint where it is painted. */
export const groundOf = (shape: Painted, ink: Ink): string => paintOf(shape) ?? ink.raised;

export function onPaint(shape: Painted, ink: Ink): string {
  if (paintOf(shape) === undefined) return ink.ink;
  return (shape.takes_up ?? (shape.ink === "black" ? 1 : 0)) > DARK ? PAPER_ON_BLACK : INK_ON_PALE;
}

export function fillsOf(ink: Ink, id: string): Record<InkName, string> {
  return {
    wall: `url(#${id}-wood)`, foam: `url(#${id}-foam)`, glass: ink.raised, mirror: "none", black: BLACK, water: `url(#${id}-wavy)`, metal: ink.rule, lining: "none", ground: "none",
    beyond: "none", matt: ink.raised, "glass-line": "none", pale: PALE, strainer: "none", pipe: "none",
  };
}

export function strokesOf(ink: Ink): Record<InkName, Stroke> {
  return {
    wall: { colour: ink.ink, width: 0.35 }, foam: { colour: ink.ink, width: 0.35 }, glass: { colour: ink.glass, width: 0.45 }, mirror: { colour: ink.ink, width: 1.1 },
    black: { colour: ink.ink, width: 0.5 }, water: { colour: ink.water, width: 0.3 }, metal: { colour: ink.ink, width: 0.8 }, lining: { colour: ink.soft, width: 0.5, dash: "1.2 0.8" },
    ground: { colour: ink.soft, width: 0.4 }, beyond: { colour: ink.soft, width: 0.35, dash: "0.6 0.6" }, matt: { colour: ink.ink, width: 0.35 }, "glass-line": { colour: ink.glass, width: 0.7 },
    pale: { colour: ink.honey, width: 0.6 }, strainer: { colour: ink.ink, width: 0.7, dash: "0.8 0.6" }, pipe: { colour: ink.ink, width: 0.7 },
  };
}

const COLD_C = 10;
const TEPID_C = 38;
const HOT_C = 65;

/** From the ink of water by plum to rust, as it warms. */
export function tint(celsius: number, ink: Pick<Ink, "water" | "plum" | "rust">): string {
  const [low, high, from, to] = celsius < TEPID_C ? [COLD_C, TEPID_C, ink.water, ink.plum] : [TEPID_C, HOT_C, ink.plum, ink.rust];
  const share = Math.min(Math.max((celsius - low) / (high - low), 0), 1);
  return `color-mix(in oklab, ${to} ${Math.round(share * 100)}%, ${from})`;
}

/** From the ink of honey, dry, to that of water, wet through. */
export function dampTint(share: number, ink: Pick<Ink, "water" | "honey">): string {
  return `color-mix(in oklab, ${ink.water} ${Math.round(Math.min(Math.max(share, 0), 1) * 100)}%, ${ink.honey})`;
}
