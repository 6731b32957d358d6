import type { HandMade } from "..";

/** A bowl of mirror, and the pot at its focus. */
const Glyph = () => (
  <>
    <path d="M1 5Q10 22 19 5" strokeWidth={1.6} />
    <path d="M8 5V1h4v4z" fill="currentColor" />
  </>
);

export default { Glyph } satisfies HandMade;
