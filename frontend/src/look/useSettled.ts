import { useEffect, useState } from "react";

/** A value once it has stood for so long: what is typed or dragged is not asked about at every step. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}

/** So long the lamp rests before what it shines on is asked for. */
export const LAMP_RESTS_MS = 120;
