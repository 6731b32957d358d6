import type { HandMade } from "..";

/** A tube between two open wings. */
const Glyph = () => (
  <>
    <path d="M1 5Q1 13 9 13M19 5Q19 13 11 13" strokeWidth={1.6} />
    <circle cx={10} cy={7} r={3.2} />
    <circle cx={10} cy={7} r={1.4} fill="currentColor" />
  </>
);

export default { Glyph } satisfies HandMade;
