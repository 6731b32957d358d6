import type { HandMade } from "..";

/** A leaning collector below a cabinet with its trays. */
const made: HandMade = {
  Glyph: ({ leans }) => (
    <g><path d={`M1 15L8 ${15 - Math.min(leans / 8, 6)}`} strokeWidth={2} /><rect x={9} y={2} width={9} height={13} /><path d="M10 6h7M10 9h7M10 12h7M12 2V0h3v2" /></g>
  ),
};
export default made;
