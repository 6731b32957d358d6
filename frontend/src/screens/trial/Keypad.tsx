import { Box, Button } from "@mui/material";
import { useEffect, useState, type Ref } from "react";
import type { TrialBook } from "../../api/client";
import { kept, keep, usePrefs } from "../../look/prefs";
import { READ_AS, readTyped, type Read } from "../../look/readAs";
import { unitOf } from "../../look/units";
import { useOnce } from "./useOnce";

/** Big keys for one thumb; what is typed survives a reload. Either unit is understood; words have keys of their own. */
interface Props {
  ref: Ref<HTMLInputElement>;
  storageKey: string;
  label: string;
  book: TrialBook;
  quantity: Read;
  inWords: boolean;
  onSave: (value: number | null, unit: string, typed: string) => void;
}

const KEYS = ["1", "2", "3", "4", "5", "6", "7", "8", "9", "−", "0", "."];

export function Keypad(props: Props) {
  return props.inWords ? <WordKeys {...props} /> : <NumberKeys key={props.quantity} {...props} />;
}

function WordKeys({ book, label, onSave }: Props) {
  return (
    <Box role="group" aria-label={`${label} in words`} className="grid columns-1fr-1fr gap-0_75 mt-1">
      {book.words.map((w) => <Button key={w.word} onClick={() => onSave(null, "C", w.word)} className="min-height-64 size-20">{w.word}</Button>)}
    </Box>
  );
}


function NumberKeys({ ref, storageKey, label, book, quantity, onSave }: Props) {
  const { units } = usePrefs();
  const allowed = book.units.filter((u) => u.quantity === quantity);
  const mine = unitOf(READ_AS[quantity].value, units).symbol;
  const usual = allowed.find((u) => u.title === mine)?.name ?? book.usual_units[quantity]!;
  const [typed, setTyped] = useState(() => kept(storageKey, ""));
  const [key, setKey] = useState(storageKey);
  const [unit, setUnit] = useState(usual);
  if (key !== storageKey) {
    setKey(storageKey);
    setTyped(kept(storageKey, ""));
  }
  useEffect(() => keep(storageKey, typed), [storageKey, typed]);

  const read = readTyped(typed, unit, allowed, quantity, book.usual_units[quantity]!, units);
  const next = () => setUnit(allowed[(allowed.findIndex((u) => u.name === unit) + 1) % allowed.length]!.name);
  const save = () => {
    if (!read) return;
    onSave(read.value, read.unit, typed.trim());
    setTyped("");
    keep(storageKey, ""); // the next reading is of another channel: no effect clears this one's any more
  };
  const titleOf = (name: string) => allowed.find((u) => u.name === name)!.title;
  const once = useOnce();
  const press = (k: string) => once(k) && setTyped((old) => (k === "−" ? (old.startsWith("−") ? old.slice(1) : `−${old}`) : old + k));
  return (
    <Box className="mt-1">
      <Box className="flex gap-0_75">
        <Box
          component="input" ref={ref} value={typed} aria-label={`reading of ${label}`} inputMode="decimal" autoComplete="off" placeholder="reading"
          onChange={(e) => setTyped((e.target as HTMLInputElement).value)} onKeyDown={(e) => e.key === "Enter" && save()}
          sx={(t) => ({ flex: 1, minWidth: 0, fontSize: 28, textAlign: "end", px: 1, border: `1px solid ${t.ink.ink}`, background: t.ink.paper, color: t.ink.ink, fontFamily: "inherit", "&::placeholder": { color: t.ink.soft, opacity: 1 } })}
        />
        <Button onClick={next} disabled={allowed.length < 2} aria-label={`typed in ${titleOf(read?.unit ?? unit)}; change`} className="min-width-64 size-18">{titleOf(read?.unit ?? unit)}</Button>
      </Box>
      <Box className="grid columns-repeat-3-1fr gap-0_75 mt-0_75">
        {KEYS.map((k) => (
          <Button key={k} onClick={() => press(k)} className="min-height-52 size-24">{k}</Button>
        ))}
        <Button onClick={() => setTyped((old) => old.slice(0, -1))} aria-label="delete last digit" className="min-height-56 size-18">⌫</Button>
        <Button variant="contained" disabled={!read} onClick={save} className="min-height-56 size-20 grid-column-span-2">Keep it</Button>
      </Box>
    </Box>
  );
}
