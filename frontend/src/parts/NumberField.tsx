import { InputAdornment, TextField } from "@mui/material";
import { useState } from "react";
import { usePrefs } from "../look/prefs";
import { defaultUnit, parseTyped, tenths, typedDigits, withUnit, type Quantity } from "../look/units";

/** A number that may be typed in any unit; it keeps the typed text, shows what it understood, and hands over base units. */
interface Props {
  label: string;
  value: number | null;
  quantity: Quantity;
  onCommit: (value: number) => void;
  /** What an emptied field means, where it may be empty. */
  onEmpty?: (() => void) | undefined;
  problem?: string | undefined;
  /** A blank keeps the place of what may have to be said. */
  hint?: string;
  id?: string;
  /** In a table: its name and unit stand over the column. */
  bare?: boolean;
}

export function NumberField({ label, value, quantity, onCommit, onEmpty, problem, hint = " ", id, bare = false }: Props) {
  const { units } = usePrefs();
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? (value === null ? "" : bare ? tenths(value, quantity, units) : typedDigits(value, quantity, units));
  const understood = typed === null ? null : parseTyped(typed, quantity, units);
  const unclear = typed !== null && typed.trim() !== "" && understood === null;
  const unit = defaultUnit(quantity, units);

  const commit = () => {
    if (typed === null || unclear) return;
    if (typed.trim() === "" && value !== null) onEmpty?.();
    if (understood !== null && understood !== value) onCommit(understood);
    setTyped(null);
  };
  const says = unclear
    ? `“${typed}” is not understood; write a number, such as 12 ${unit}`
    : typed !== null && understood !== null && typed !== typedDigits(understood, quantity, units)
      ? `understood: ${withUnit(understood, quantity, units)}`
      : (problem ?? hint);
  return (
    <TextField
      title={label} label={bare ? undefined : label} value={text} error={unclear || Boolean(problem)} helperText={bare && says === " " ? undefined : says} id={id}
      onChange={(e) => setTyped(e.target.value)} onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === "Enter") commit();
        if (e.key === "Escape") setTyped(null);
      }}
      slotProps={{
        inputLabel: { shrink: true },
        htmlInput: { inputMode: "text", autoComplete: "off", ...(bare ? { "aria-label": label } : {}) },
        input: unit && !bare ? { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> } : {},
      }}
    />
  );
}
