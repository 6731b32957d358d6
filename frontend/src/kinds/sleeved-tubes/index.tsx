import type { HandMade } from "..";

/** Three tubes in their bottles on a leaning frame. */
const made: HandMade = {
  Glyph: ({ leans }) => (
    <g transform={`rotate(${-leans * 0.4} 10 12)`}><rect x={2} y={4} width={4} height={9} rx={1.5} /><rect x={8} y={4} width={4} height={9} rx={1.5} /><rect x={14} y={4} width={4} height={9} rx={1.5} /><path d="M4 2v13M10 2v13M16 2v13" /></g>
  ),
};
export default made;
