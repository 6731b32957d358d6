import type { HandMade } from "..";

/** A box, its opening leaning as it leans, and the mirror on its upper edge. */
const Glyph = ({ leans }: { leans: number }) => (
  <g transform={`rotate(${leans * 0.25} 10 12)`}>
    <path d="M3 7v7h12V7" />
    <path d="M3 7h12" strokeWidth={0.8} />
    <path d="M3 7L1 1" strokeWidth={1.8} />
  </g>
);

export default { Glyph } satisfies HandMade;
