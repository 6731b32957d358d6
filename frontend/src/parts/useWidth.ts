import { useCallback, useState } from "react";

/** The last width of each sort of thing, by a name that things of one width share: the next one is drawn once, not twice. */
const known = new Map<string, number>();

/** Width of an element as it is laid out; the callback goes on the element as its ref. */
export function useWidth(like?: string): [(node: HTMLElement | null) => (() => void) | undefined, number] {
  const [width, setWidth] = useState(() => (like && known.get(like)) || 0);
  const ref = useCallback(
    (node: HTMLElement | null) => {
      if (!node) return undefined;
      const take = (found: number) => {
        const whole = Math.round(found);
        if (like) known.set(like, whole);
        setWidth(whole);
      };
      // Known before the first picture, so that nothing jumps; watched from then on.
      take(node.getBoundingClientRect().width);
      const observer = new ResizeObserver(([entry]) => take(entry!.contentRect.width));
      observer.observe(node);
      return () => observer.disconnect();
    },
    [like],
  );
  return [ref, width];
}
