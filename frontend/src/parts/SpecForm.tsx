import { Box, Button, Checkbox, FormControlLabel, Typography } from "@mui/material";
import { createContext, useContext, useState, type ReactNode } from "react";
import type { Family, FieldForm, Material, Materials } from "../api/client";
import { usePrefs } from "../look/prefs";
import { say, withUnit } from "../look/units";
import { dateYearWords } from "../look/clock";
import { DayField } from "./DayField";
import { Choice } from "./Choice";
import { isAsked } from "./fields";
import { hoursWith } from "./hours";
import { MaterialChoice, nameOf } from "./MaterialChoice";
import { NumberField } from "./NumberField";
import { Typed } from "./Typed";

/** Fields of a record as the core describes them: label, hint, range, unit and choices are its own; nothing here knows a kind. */
export interface Edit {
  /** Set a field; `settles` says that others follow from it. */
  set: (path: string, value: unknown, note: string, settles: boolean) => void;
  /** Put one more into a list, or a record where there may be one. */
  add: (path: string, note: string) => void;
  remove: (path: string, note: string) => void;
  /** What the core said of a field. */
  about: (path: string) => string | undefined;
}

type Values = Record<string, unknown>;
interface Shared {
  edit: Edit;
  materials: Materials;
  /** The entry of a list that was pointed at in the drawing. */
  picked: number | null;
  /** What stands over the form, not to be said twice. */
  title?: string;
}

const Form = createContext<Shared | null>(null);

interface Props extends Shared {
  fields: FieldForm[];
  values: Values;
}

export function SpecForm({ fields, values, ...shared }: Props) {
  return <Form value={shared}><Fields fields={fields} values={values} at="" /></Form>;
}

const under = (at: string, name: string | number) => (at ? `${at}.${name}` : String(name));
const isBlock = (field: FieldForm) => field.sort === "one" || field.sort === "many";

function Fields({ fields, values, at }: { fields: FieldForm[]; values: Values; at: string }) {
  const shown = fields.filter((f) => isAsked(f, values));
  const plain = shown.filter((f) => !isBlock(f));
  return (
    <>
      {plain.length > 0 && <div className="pairs">{plain.map((f) => <Field key={f.name} field={f} value={values[f.name]} at={at} />)}</div>}
      <Said fields={plain} values={values} />
      {shown.filter(isBlock).map((f) => <Block key={f.name} field={f} value={values[f.name]} at={at} />)}
    </>
  );
}

function Field({ field, value, at }: { field: FieldForm; value: unknown; at: string }) {
  const { edit, materials } = useContext(Form)!;
  const { units } = usePrefs();
  const path = under(at, field.name);
  const label = { label: field.title, problem: edit.about(path), hint: field.hint };
  const set = (next: unknown, words: string) => edit.set(path, next, `${field.title}: ${words}`, field.settles);
  if (isFew(field)) return <Few field={field} value={value as number} onPick={(next) => set(next, String(next))} />;
  if (field.sort === "number") {
    const round = (next: number) => (field.whole ? Math.round(next) : next);
    return (
      <NumberField
        {...label} value={value as number | null} quantity={field.quantity} onCommit={(next) => set(round(next), withUnit(round(next), field.quantity, units))}
        onEmpty={field.may_be_empty ? () => set(null, "left open") : undefined}
      />
    );
  }
  if (field.sort === "choice") {
    // A row of one's own, as files may hold it, stands beside those of the table.
    const row = typeof value === "object" ? (value as { name: string; title: string } | null) : null;
    const name = row ? row.name : ((value as string | null) ?? "");
    const none = field.may_be_empty ? [{ value: "", title: "–" }] : [];
    const own = row ? [{ value: name, title: `${row.title} (own)` }] : [];
    const titleOf = (chosen: string) => field.options.find((o) => o.value === chosen)?.title ?? chosen;
    return <Choice {...label} value={name} options={[...none, ...field.options, ...own]} onChange={(next) => set(next === "" ? null : next, next === "" ? "left open" : titleOf(next))} />;
  }
  if (field.sort === "hour") {
    const none = field.may_be_empty ? [{ value: "", title: "–" }] : [];
    const hour = (value as string | null) ?? "";
    return <Choice {...label} value={hour} options={[...none, ...hoursWith(hour)]} onChange={(next) => set(next === "" ? null : next, next === "" ? "left open" : next)} />;
  }
  if (field.sort === "day") {
    return <DayField {...label} value={value as string | null} onCommit={(day) => set(day, dateYearWords(day))} onEmpty={field.may_be_empty ? () => set(null, "left open") : undefined} />;
  }
  if (field.sort === "yes") {
    const control = <Checkbox size="small" checked={value === true} onChange={(_, on) => set(on, on ? "yes" : "no")} />;
    return <Box className="align-self-center"><FormControlLabel label={field.title} control={control} /></Box>;
  }
  if (field.sort === "material") {
    const family = field.family as Family;
    const rows: Material[] = materials[`${family}s`];
    const own = materials.own.filter((m) => m.family === family).map((m) => m.name);
    const none = field.may_be_empty ? () => set(null, "none") : undefined;
    return <MaterialChoice {...label} value={value as string | null} rows={rows} own={own} onChange={(choice, row) => set(choice, row.title)} onNone={none} />;
  }
  return <Typed {...label} value={String(value)} onCommit={(next) => set(next, next)} />;
}

const MOST_KEYS = 4;
const isFew = (field: FieldForm) => field.whole && !field.may_be_empty && field.least !== null && field.most !== null && field.most - field.least < MOST_KEYS;

/** A whole number out of a few: a key for each. */
function Few({ field, value, onPick }: { field: FieldForm; value: number; onPick: (next: number) => void }) {
  const numbers = Array.from({ length: field.most! - field.least! + 1 }, (_, k) => field.least! + k);
  return (
    <Box role="group" aria-label={field.title} className="flex gap-0_5 items-center min-height-40">
      <Typography component="span" variant="body2" className="mr-0_5">{field.title}</Typography>
      {numbers.map((n) => <Button key={n} aria-label={`${field.title}: ${n}`} aria-pressed={n === value} variant={n === value ? "contained" : "outlined"} className="min-width-40" onClick={() => n !== value && onPick(n)}>{n}</Button>)}
    </Box>
  );
}

/** What the shelf says of the stuff that was chosen. */
function Said({ fields, values }: { fields: FieldForm[]; values: Values }) {
  const { materials } = useContext(Form)!;
  const { units } = usePrefs();
  const said = fields.flatMap((f) => {
    const words = f.family && values[f.name] ? materials.says[`${f.family}/${nameOf(values[f.name] as string)}`] : undefined;
    return words ? [say(words, units)] : [];
  });
  return said.map((words) => <Typography key={words} variant="body2">{words}</Typography>);
}

function Block({ field, value, at }: { field: FieldForm; value: unknown; at: string }) {
  const path = under(at, field.name);
  if (field.sort === "many") {
    const Entries = field.fields.some((f) => f.name === "title") ? Named : Rows;
    return <Entries field={field} entries={value as Values[]} path={path} />;
  }
  return <One field={field} value={value as Values | null} path={path} />;
}

function One({ field, value, path }: { field: FieldForm; value: Values | null; path: string }) {
  const { edit, title: over } = useContext(Form)!;
  const name = field.title.toLowerCase();
  if (value === null) {
    return (
      <Titled title={`${field.title}: none`}>
        <Button aria-label={`Put one on: ${name}`} onClick={() => edit.add(path, `${name} added`)}>Put one on</Button>
      </Titled>
    );
  }
  const off = field.may_be_empty && <Button aria-label={`Take it off: ${name}`} onClick={() => edit.remove(path, `${name} taken off`)}>Take it off</Button>;
  return (
    <Box role="group" aria-label={field.title} className="block">
      <Titled title={field.title === over ? "" : field.title}>{off}</Titled>
      {edit.about(path) && <Typography role="alert">{edit.about(path)}</Typography>}
      <Fields fields={field.fields} values={value} at={path} />
    </Box>
  );
}

interface Many {
  field: FieldForm;
  entries: Values[];
  path: string;
}

/** Layers and the like: a row each, in their order. */
function Rows({ field, entries, path }: Many) {
  const { edit } = useContext(Form)!;
  return (
    <Box role="group" aria-label={field.title} className="block">
      <Titled title={field.title} hint={field.hint} />
      {entries.map((entry, k) => (
        <div key={k} className="entry">
          <Fields fields={field.fields} values={entry} at={under(path, k)} />
          <Button disabled={entries.length <= field.least_items} aria-label={`out: ${field.title.toLowerCase()} ${k + 1}`} onClick={() => edit.remove(under(path, k), `${field.title.toLowerCase()} ${k + 1} taken out`)}>out</Button>
        </div>
      ))}
      <Button disabled={entries.length >= field.most_items} aria-label={`Add one: ${field.title.toLowerCase()}`} onClick={() => edit.add(path, `${field.title.toLowerCase()}: one more`)}>Add one</Button>
    </Box>
  );
}

/** Things that have names: one of them open at a time. */
function Named({ field, entries, path }: Many) {
  const { edit, picked } = useContext(Form)!;
  const [chosen, setChosen] = useState<{ at: number; picked: number | null }>({ at: picked ?? 0, picked });
  // What is pointed at in the drawing opens here, until another is opened by hand.
  const here = Math.min(chosen.picked === picked ? chosen.at : (picked ?? 0), entries.length - 1);
  const open = (at: number) => setChosen({ at, picked });
  const titleOf = (entry: Values) => String(entry.title);
  return (
    <Box role="group" aria-label={field.title} className="block">
      <Titled title={field.title} hint={field.hint} />
      <div className="keys">
        {entries.map((entry, k) => (
          <Button key={k} aria-pressed={k === here} variant={k === here ? "contained" : "outlined"} onClick={() => open(k)}>{titleOf(entry)}</Button>
        ))}
        {entries.length < field.most_items && <Button onClick={() => { edit.add(path, "one more added"); open(entries.length); }}>+ one more</Button>}
      </div>
      <Fields fields={field.fields} values={entries[here]!} at={under(path, here)} />
      <Button disabled={entries.length <= field.least_items} onClick={() => { open(0); edit.remove(under(path, here), `${titleOf(entries[here]!)} taken out`); }}>Take {titleOf(entries[here]!)} out</Button>
    </Box>
  );
}

function Titled({ title, hint = "", children }: { title: string; hint?: string; children?: ReactNode }) {
  return (
    <Box className="titled">
      {title && <Typography variant="h3">{title}</Typography>}
      {hint && <Typography variant="body2" className="ink-soft">{hint}</Typography>}
      {children}
    </Box>
  );
}
