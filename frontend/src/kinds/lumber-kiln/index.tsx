import type { HandMade } from "..";

/** A leaning roof over a stack on its sticks. */
const made: HandMade = {
  Glyph: ({ leans }) => (
    <g><path d={`M2 15V9L12 ${Math.max(9 - leans / 7, 1)}H18V15Z`} /><path d="M7 13.5h9M7 11.3h9M7 9.1h9" strokeWidth={1.2} /></g>
  ),
};
export default made;
