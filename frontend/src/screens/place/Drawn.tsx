import { Box } from "@mui/material";
import type { Section } from "../../api/client";
import { SectionSketch } from "../../parts/SectionDrawing";

const HIGH_PX = 170;
const sizeOf = (drawn: Section) => {
  const [[left, low], [right, high]] = drawn.extent as [[number, number], [number, number]];
  return { wide: right - left, high: high - low };
};

/** Pixels to a metre at which the largest of some drawings still fits. */
export function scaleOf(drawings: Section[], widePx = 300): number {
  return Math.min(...drawings.map((d) => Math.min(widePx / sizeOf(d).wide, HIGH_PX / sizeOf(d).high)));
}

/** A build at a scale that it shares with its neighbours, with a metre beside it. */
export function Drawn({ drawn, scale }: { drawn: Section; scale: number }) {
  const { wide, high } = sizeOf(drawn);
  return (
    <Box className="flex column items-center justify-end" sx={{ height: HIGH_PX * 1.25 + 24 }}>
      <Box sx={{ width: Math.max(wide * scale * 1.25, 60), height: Math.max(high * scale * 1.25, 48) }}><SectionSketch section={drawn} /></Box>
      <svg width={Math.max(scale, 12) + 60} height={14} aria-hidden>
        <path d={`M1 3v6M1 6h${scale}M${1 + scale} 3v6`} stroke="currentColor" fill="none" />
        <text x={scale + 8} y={11} fontSize={12} fill="currentColor">1 m</text>
      </svg>
    </Box>
  );
}
