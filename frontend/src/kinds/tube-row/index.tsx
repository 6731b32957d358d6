import type { HandMade } from "..";

/** Tubes side by side under their header. */
const made: HandMade = {
  Glyph: ({ leans }) => (
    <g transform={`rotate(${-leans * 0.3} 10 8)`}><path d="M2 3h16" strokeWidth={2.2} /><path d="M4 3v11M8 3v11M12 3v11M16 3v11" /></g>
  ),
};
export default made;
