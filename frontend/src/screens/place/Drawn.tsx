import { Box } from "@mui/material";
import type { Section } from "../../api/client";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { SectionSketch } from "../../parts/section/SectionDrawing";

const HIGH_PX = 170;
const RULES_M = [1, 0.9144];
const sizeOf = (drawn: Section) => {
  const [[left, low], [right, high]] = drawn.extent as [[number, number], [number, number]];
  return { wide: right - left, high: high - low };
};

/** Pixels to a metre at which the largest of some drawings still fits. */
export function scaleOf(drawings: Section[], widePx = 300): number {
  return Math.min(...drawings.map((d) => Math.min(widePx / sizeOf(d).wide, HIGH_PX / sizeOf(d).high)));
}

const LONGEST_RULE_PX = 100;

/** A build at a scale that it shares with its neighbours, with a metre beside it. */
export function Drawn({ drawn, scale }: { drawn: Section; scale: number }) {
  const { wide, high } = sizeOf(drawn);
  const { units } = usePrefs();
  // a metre, or the three feet of whoever reads in feet
  const whole = RULES_M.find((long) => withUnit(long, "distance", units).length <= "3 ft".length) ?? RULES_M[0]!;
  const ruled = whole * scale > LONGEST_RULE_PX ? whole / 2 : whole; // half of it, so that it never outgrows a narrow column
  const rule = ruled * scale;
  return (
    <Box className="flex column items-center justify-end" sx={{ height: HIGH_PX * 1.25 + 24 }}>
      <Box sx={{ width: Math.max(wide * scale * 1.25, 60), height: Math.max(high * scale * 1.25, 48) }}><SectionSketch section={drawn} /></Box>
      <svg width={Math.max(rule, 12) + 60} height={14} aria-hidden>
        <path d={`M1 3v6M1 6h${rule}M${1 + rule} 3v6`} stroke="currentColor" fill="none" />
        <text x={rule + 8} y={11} fontSize={12} fill="currentColor">{withUnit(ruled, "distance", units)}</text>
      </svg>
    </Box>
  );
}
