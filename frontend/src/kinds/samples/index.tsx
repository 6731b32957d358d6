import type { HandMade } from "..";

/** Samples on their board. */
const Glyph = () => (
  <>
    <rect x={2} y={1} width={16} height={14} strokeWidth={1.2} />
    {[4, 8.5, 13].flatMap((x) => [3, 9].map((y) => <rect key={`${x}${y}`} x={x} y={y} width={3} height={4} fill="currentColor" />))}
  </>
);

export default { Glyph } satisfies HandMade;
