import type { SumView } from "../api/client";

/** A small figure for what one holds in hand: drawn, so that a group is seen before it is read. */
const STROKES: Record<SumView["holds"], string> = {
  sun: "M4 20h24M8 20a8 8 0 0 1 16 0M16 4v4M5 9l3 3M27 9l-3 3",
  heat: "M10 22c-4-4 2-6 0-12M17 22c-4-4 2-6 0-12M24 22c-4-4 2-6 0-12",
  water: "M16 4c5 6 7 9 7 12a7 7 0 0 1-14 0c0-3 2-6 7-12zM4 23q3-2 6 0t6 0t6 0t6 0",
  air: "M4 9h15a3 3 0 1 0-3-3M4 14h20a3 3 0 1 1-3 3M4 19h9",
  wood: "M4 9h20l4 4v8h-4M4 9v8h20V9M24 17l4 4M8 11q4 2 8 0M8 14q6 2 12 0",
  food: "M6 12h20v3a8 8 0 0 1-8 8h-4a8 8 0 0 1-8-8zM2 12h28M12 8q-2-2 0-4M18 8q-2-2 0-4",
  money: "M16 23a9 9 0 1 0 0-18a9 9 0 0 0 0 18zM20 10a5 5 0 1 0 0 8M10 13h8M10 16h7",
};

export function HeldGlyph({ holds }: { holds: SumView["holds"] }) {
  return (
    <svg width={32} height={26} viewBox="0 0 32 26" aria-hidden="true" fill="none" stroke="currentColor" strokeWidth={1.6} strokeLinecap="round" strokeLinejoin="round" style={{ flex: "none" }}>
      <path d={STROKES[holds]} />
    </svg>
  );
}
