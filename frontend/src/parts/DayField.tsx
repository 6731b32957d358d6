import { TextField } from "@mui/material";
import { dateYearWords, weekday } from "../look/clock";

/** A day or an hour, the same wherever one is asked for: picked or typed, with the day in words below. */
interface Props {
  label: string;
  value: string | null;
  onCommit: (value: string) => void;
  /** What an emptied field means, where it may be empty. */
  onEmpty?: (() => void) | undefined;
  problem?: string | undefined;
  hint?: string;
}

const SHRUNK = { inputLabel: { shrink: true } };

export function DayField({ label, value, onCommit, onEmpty, problem, hint = " " }: Props) {
  return (
    <TextField
      label={label} type="date" value={value ?? ""} error={Boolean(problem)} slotProps={SHRUNK}
      helperText={problem ?? (value ? `${weekday(value)} ${dateYearWords(value)}` : hint)}
      onChange={(e) => (e.target.value === "" ? onEmpty?.() : onCommit(e.target.value))}
    />
  );
}

export function HourField({ label, value, onCommit, problem, hint = " " }: Props) {
  return (
    <TextField
      label={label} type="time" value={value ?? ""} error={Boolean(problem)} helperText={problem ?? hint} slotProps={SHRUNK}
      onChange={(e) => e.target.value && onCommit(e.target.value)}
    />
  );
}
