import { createContext, useContext, useMemo, useState, type ReactNode } from "react";
import { USUAL, type Units } from "./units";

/** The user's units and light, kept in this browser. */
interface Prefs {
  units: Units;
  dusk: boolean;
  setUnits: (units: Units) => void;
  setDusk: (dusk: boolean) => void;
}

const PrefsContext = createContext<Prefs | null>(null);

export function usePrefs(): Prefs {
  const prefs = useContext(PrefsContext);
  if (!prefs) throw new Error("usePrefs outside PrefsProvider");
  return prefs;
}

export function kept<T>(key: string, fallback: T): T {
  try {
    const text = localStorage.getItem(key);
    return text === null ? fallback : (JSON.parse(text) as T);
  } catch {
    return fallback;
  }
}

export function keep(key: string, value: unknown): void {
  try {
    localStorage.setItem(key, JSON.stringify(value));
  } catch {
    // A browser without storage only forgets preferences.
  }
}

export function PrefsProvider({ children }: { children: ReactNode }) {
  const [units, setUnits] = useState<Units>(() => ({ ...USUAL, ...kept<Units>("drylamp.unit-of", {}) }));
  const [dusk, setDusk] = useState<boolean>(() => kept("drylamp.dusk", false));
  const value = useMemo<Prefs>(
    () => ({
      units,
      dusk,
      setUnits: (next) => {
        keep("drylamp.unit-of", next);
        setUnits(next);
      },
      setDusk: (next) => {
        keep("drylamp.dusk", next);
        setDusk(next);
      },
    }),
    [units, dusk],
  );
  return <PrefsContext value={value}>{children}</PrefsContext>;
}
