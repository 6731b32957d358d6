import { Choice } from "./Choice";

/** A part's material: a listed one goes into the build by its name, one of the user's own by its whole row. */
interface Named {
  name: string;
  title: string;
}

interface Props<R extends Named> {
  label: string;
  value: string | Named | null;
  rows: R[];
  own: string[];
  onChange: (choice: string | R, row: R) => void;
  /** Where the part may be left out. */
  onNone?: (() => void) | undefined;
  problem?: string | undefined;
  hint?: string | undefined;
}

export const nameOf = (choice: string | Named): string => (typeof choice === "string" ? choice : choice.name);

export function rowOf<R extends Named>(choice: string | Named, rows: R[]): R | undefined {
  return typeof choice === "string" ? rows.find((row) => row.name === choice) : (choice as R);
}

const NONE = "";

export function MaterialChoice<R extends Named>({ label, value, rows, own, onChange, onNone, problem, hint }: Props<R>) {
  const name = value === null ? NONE : nameOf(value);
  const options = rows.map((row) => ({ value: row.name, title: own.includes(row.name) ? `${row.title} (own)` : row.title }));
  if (onNone) options.unshift({ value: NONE, title: "none" });
  if (value !== null && typeof value !== "string" && !rows.some((row) => row.name === name)) options.push({ value: name, title: `${value.title} (own, off the shelf)` });
  return (
    <Choice
      label={label} value={name} options={options} problem={problem} hint={hint ?? ""}
      onChange={(next) => {
        const row = rows.find((r) => r.name === next);
        if (row) onChange(own.includes(next) ? row : next, row);
        else onNone?.();
      }}
    />
  );
}
