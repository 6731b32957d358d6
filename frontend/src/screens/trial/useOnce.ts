import { useCallback, useRef } from "react";

/** A drop of water taps twice: the same key again within so long is not meant. No finger is as quick. */
const BOUNCE_MS = 45;

/** Whether a key is not being pressed for a second time by the same touch. */
export function useOnce(): (key: string) => boolean {
  const last = useRef<[string, number]>(["", 0]);
  return useCallback((key) => {
    const now = performance.now();
    const [before, at] = last.current;
    last.current = [key, now];
    return key !== before || now - at >= BOUNCE_MS;
  }, []);
}
