import type { HandMade } from "..";

/** A shallow box whose floor slopes to its strainer. */
const Glyph = () => (
  <g transform="rotate(16 10 9)">
    <path d="M2 6v5h16V6" />
    <path d="M2 6h16" strokeWidth={0.8} />
    <path d="M13 11V7" strokeDasharray="1.5 1" />
  </g>
);

export default { Glyph } satisfies HandMade;
