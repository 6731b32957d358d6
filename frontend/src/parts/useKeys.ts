import { useEffect } from "react";
import type { Key } from "../look/keys";

/** Single keys that work anywhere but while typing; only such as the list of keys has. */
export function useKeys(keys: Partial<Record<Key, () => void>>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable;
      if (typing || event.ctrlKey || event.metaKey || event.altKey || document.querySelector("[role=dialog]")) return;
      const run = keys[event.key as Key];
      if (!run) return;
      event.preventDefault();
      run();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [keys]);
}
