import { Box, Button } from "@mui/material";
import { useEffect, useState, type Ref } from "react";
import { kept, keep, usePrefs } from "../../look/prefs";

/** Big keys for one thumb; what is typed survives a reload. */
interface Props {
  ref: Ref<HTMLInputElement>;
  storageKey: string;
  label: string;
  onSave: (value: number, unit: "C" | "F", typed: string) => void;
}

const KEYS = ["1", "2", "3", "4", "5", "6", "7", "8", "9", "−", "0", "."];

export function Keypad({ ref, storageKey, label, onSave }: Props) {
  const { units } = usePrefs();
  const [typed, setTyped] = useState(() => kept(storageKey, ""));
  const [key, setKey] = useState(storageKey);
  const [unit, setUnit] = useState<"C" | "F">(units.temperature);
  if (key !== storageKey) {
    setKey(storageKey);
    setTyped(kept(storageKey, ""));
  }
  useEffect(() => keep(storageKey, typed), [storageKey, typed]);

  const found = /^(-?\d+(?:\.\d+)?)\s*°?\s*([cf])?$/i.exec(typed.trim().replace("−", "-").replace(",", "."));
  const value = found ? Number(found[1]) : NaN;
  const used = (found?.[2]?.toUpperCase() as "C" | "F" | undefined) ?? unit;
  const save = () => {
    if (!Number.isFinite(value)) return;
    onSave(value, used, typed.trim());
    setTyped("");
  };
  const press = (k: string) => setTyped((old) => (k === "−" ? (old.startsWith("−") ? old.slice(1) : `−${old}`) : old + k));
  return (
    <Box sx={{ mt: 1 }}>
      <Box sx={{ display: "flex", gap: 0.75 }}>
        <Box
          component="input" ref={ref} value={typed} aria-label={`reading of ${label}`} inputMode="decimal" autoComplete="off" placeholder="reading"
          onChange={(e) => setTyped((e.target as HTMLInputElement).value)} onKeyDown={(e) => e.key === "Enter" && save()}
          sx={(t) => ({ flex: 1, minWidth: 0, fontSize: 28, textAlign: "right", px: 1, border: `1px solid ${t.ink.ink}`, background: t.ink.paper, color: t.ink.ink, fontFamily: "inherit", "&::placeholder": { color: t.ink.soft, opacity: 1 } })}
        />
        <Button onClick={() => setUnit(unit === "C" ? "F" : "C")} aria-label={`typed in °${used}; change`} sx={{ minWidth: 56, fontSize: 20 }}>°{used}</Button>
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)", gap: 0.75, mt: 0.75 }}>
        {KEYS.map((k) => (
          <Button key={k} onClick={() => press(k)} sx={{ minHeight: 52, fontSize: 24 }}>{k}</Button>
        ))}
        <Button onClick={() => setTyped((old) => old.slice(0, -1))} aria-label="delete last digit" sx={{ minHeight: 56, fontSize: 18 }}>⌫</Button>
        <Button variant="contained" disabled={!Number.isFinite(value)} onClick={save} sx={{ minHeight: 56, fontSize: 20, gridColumn: "span 2" }}>Keep it</Button>
      </Box>
    </Box>
  );
}
