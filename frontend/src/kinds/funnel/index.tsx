import type { HandMade } from "..";

/** A sheet round a pot. */
const Glyph = () => (
  <>
    <path d="M2 1L7 12h6L18 1" strokeWidth={1.6} />
    <path d="M8.5 10V6h3v4z" fill="currentColor" />
  </>
);

export default { Glyph } satisfies HandMade;
