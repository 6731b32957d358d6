import { TextField } from "@mui/material";

/** A short list to choose from, with the platform's own picker (works with gloves and screen readers). */
interface Props {
  label: string;
  value: string;
  options: { value: string; title: string }[];
  onChange: (value: string) => void;
  problem?: string | undefined;
  hint?: string | undefined;
}

export function Choice({ label, value, options, onChange, problem, hint }: Props) {
  return (
    <TextField
      select label={label} value={value} error={Boolean(problem)} helperText={problem ?? hint ?? " "}
      onChange={(e) => onChange(e.target.value)} slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
    >
      {options.map((o) => (
        <option key={o.value} value={o.value}>{o.title}</option>
      ))}
    </TextField>
  );
}
