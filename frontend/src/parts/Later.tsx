import { startTransition, useDeferredValue, useEffect, useState, type ReactNode } from "react";

/** Whether the first page has been drawn whole. From then on what is there stays until what comes is ready. */
let opened = false;

/** While the first page opens, what is long to draw comes after what stands around it, and in short turns, so that nobody's tap waits for it. */
export function Later({ instead = null, children }: { instead?: ReactNode; children: ReactNode }) {
  const [itsTurn, setItsTurn] = useState(opened);
  useEffect(() => startTransition(() => setItsTurn(true)), []);
  return itsTurn ? children : instead;
}

/** So long after a page is there what it asks for first has come, too. */
const FIRST_ANSWERS_MS = 2000;

/** Stands at the end of a page: once it is there, the page is. */
export function Opened() {
  useEffect(() => {
    const soon = setTimeout(() => (opened = true), FIRST_ANSWERS_MS);
    return () => clearTimeout(soon);
  }, []);
  return null;
}

/** The first answer to a question, in short turns, too; those after it are shown as they come. */
export function useLater<T>(value: T | undefined): T | undefined {
  return useDeferredValue(value !== undefined, opened && value !== undefined) ? value : undefined;
}
