import { TextField } from "@mui/material";
import { useState } from "react";

/** A word that is kept as it is typed and handed over when left. */
interface Props {
  label: string;
  value: string;
  onCommit: (text: string) => void;
  problem?: string | undefined;
  hint?: string;
}

export function Typed({ label, value, onCommit, problem, hint }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed.trim() && typed.trim() !== value) onCommit(typed.trim());
    setTyped(null);
  };
  return (
    <TextField
      label={label} value={typed ?? value} error={Boolean(problem)} helperText={problem ?? hint} onChange={(e) => setTyped(e.target.value)}
      onBlur={commit} onKeyDown={(e) => e.key === "Enter" && commit()}
    />
  );
}
