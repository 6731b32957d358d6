import { startTransition, useDeferredValue, useEffect, useState, type ReactNode } from "react";

/** What is long to draw comes after what stands around it, and in short turns, so that nobody's tap waits for it. */
export function Later({ instead = null, children }: { instead?: ReactNode; children: ReactNode }) {
  const [itsTurn, setItsTurn] = useState(false);
  useEffect(() => startTransition(() => setItsTurn(true)), []);
  return itsTurn ? children : instead;
}

/** The first answer to a question, in short turns, too; those after it are shown as they come. */
export function useLater<T>(value: T | undefined): T | undefined {
  return useDeferredValue(value !== undefined, false) ? value : undefined;
}
