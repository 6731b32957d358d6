import { Box, Button, Drawer, TextField, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "react-router";
import { answered, client, type SumView } from "../api/client";
import { buildQuery, sumsQuery } from "../api/queries";
import { useKindOf } from "../kinds";
import { named } from "../look/names";
import { usePrefs } from "../look/prefs";
import { parseTyped, type Units } from "../look/units";
import { capital } from "../look/words";
import { HeldGlyph } from "./HeldGlyph";
import { Problem } from "./Problem";
import { SmallFigure, SumFigure } from "./SumFigure";
import { labelOf, namedIn, told } from "./sumWords";

/** A drawer over any screen: every hand calculation as a form, its result live, formula and source under it. */
interface Field {
  name: string;
  required: boolean;
  isText: boolean;
  isFile: boolean;
  choices: string[];
  fallback: string;
  hint: string;
}

interface Property {
  type?: string;
  anyOf?: { type?: string; format?: string }[];
  enum?: string[];
  examples?: string[];
  default?: unknown;
  description?: string;
  format?: string;
}

function fieldsOf(sum: SumView): Field[] {
  const schema = sum.inputs_schema as { properties?: Record<string, Property>; required?: string[] };
  return Object.entries(schema.properties ?? {}).map(([name, property]) => {
    const type = property.type ?? property.anyOf?.find((t) => t.type !== "null")?.type;
    return {
      name,
      required: schema.required?.includes(name) ?? false,
      isText: type === "string",
      isFile: property.format === "csv-file",
      choices: property.enum ?? property.examples ?? [],
      fallback: property.default == null ? "" : JSON.stringify(property.default).replaceAll('"', ""),
      hint: property.description ?? (property.enum ? property.enum.join(", ") : property.format ? `as ${property.format}` : ""),
    };
  });
}

/** A bare number is in the label's unit; "3/4 in" or "110 F" are understood where the unit allows it. */
function valueOf(name: string, text: string, sum: SumView, units: Units): unknown {
  return parseTyped(text, namedIn(name, sum).quantity ?? "plain", units) ?? text;
}

function inputsOf(fields: Field[], typed: Record<string, string>, sum: SumView, units: Units): Record<string, unknown> {
  const out: Record<string, unknown> = {};
  for (const field of fields) {
    const text = typed[field.name]?.trim();
    if (text) out[field.name] = field.isText ? text : valueOf(field.name, text, sum, units);
  }
  return out;
}

/** A file whose text goes into the sum; nothing is kept. */
function FileField({ field, onText }: { field: Field; onText: (text: string) => void }) {
  const [name, setName] = useState("");
  return (
    <Box className="grid-column-1-1">
      <Button component="label" variant="outlined">
        {name || "Choose a CSV file"}
        <input
          hidden type="file" accept=".csv,text/csv,text/plain" aria-label={field.name}
          onChange={(e) => { const file = e.target.files?.[0]; if (file) { setName(file.name); void file.text().then(onText); } }}
        />
      </Button>
      <Typography variant="body2">{field.hint}</Typography>
    </Box>
  );
}

function OneSum({ sum }: { sum: SumView }) {
  const fields = fieldsOf(sum);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const { units } = usePrefs();
  const inputs = inputsOf(fields, typed, sum, units);
  const ready = Object.keys(inputs).length > 0 && fields.every((f) => !f.required || f.name in inputs);
  const { data, error } = useQuery({
    queryKey: ["sum", sum.name, inputs],
    queryFn: () => answered(client.POST("/api/sums/{name}", { params: { path: { name: sum.name } }, body: inputs })),
    enabled: ready,
    retry: false,
  });
  return (
    <Box>
      <Typography variant="h2" className="my-1">{sum.title}</Typography>
      <Box className="grid columns-1fr-1fr gap-1">
        {fields.map((field) => field.isFile ? (
          <FileField key={field.name} field={field} onText={(text) => setTyped({ ...typed, [field.name]: text })} />
        ) : (
          <TextField
            key={field.name} label={labelOf(field.name, sum, units) + (field.required ? "" : " (optional)")} value={typed[field.name] ?? ""}
            placeholder={field.fallback} helperText={field.hint || " "}
            onChange={(e) => setTyped({ ...typed, [field.name]: e.target.value })}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: field.choices.length > 0 ? { list: `${sum.name}-${field.name}` } : {} }}
          />
        ))}
        {fields.filter((field) => field.choices.length > 0).map((field) => (
          <datalist key={field.name} id={`${sum.name}-${field.name}`}>{field.choices.map((choice) => <option key={choice} value={choice} />)}</datalist>
        ))}
      </Box>
      <Box aria-live="polite">
        {error && <Problem error={error} />}
        {data && (
          <Box component="dl" className="m-0 p-1_5 border-1-ink">
            {Object.entries(data.result).map(([name, value]) => (
              <Box key={name} className="flex between">
                <dt>{namedIn(name, sum).words}</dt>
                <Box component="dd" className="m-0 weight-700 size-18">{told(name, value, sum, units)}</Box>
              </Box>
            ))}
          </Box>
        )}
      </Box>
      <SumFigure sum={sum} typed={inputs} />
      <details>
        <summary>Formula and source</summary>
        <Typography variant="body2">{sum.formula}</Typography>
        <Typography variant="body2">{sum.source}</Typography>
      </details>
    </Box>
  );
}

/** Groups by what one holds in hand: what fits this build and station first. */
function useGroups(sums: SumView[]): { holds: SumView["holds"]; sums: SumView[] }[] {
  const { pathname } = useLocation();
  const [, id, station] = /^\/builds\/(\d+)\/(\w+)/.exec(pathname) ?? [];
  const build = useQuery({ ...buildQuery(Number(id ?? 0)), enabled: id !== undefined }).data;
  const kindOf = useKindOf();
  const kind = build && kindOf(build.spec);
  const fits = (sum: SumView) => {
    const own = kind?.holds.indexOf(sum.holds) ?? -1;
    return (own === -1 ? 0 : 10 - own) + (station !== undefined && sum.stations.includes(station) ? 3 : 0);
  };
  const order = [...new Set([...sums].sort((a, b) => fits(b) - fits(a)).map((s) => s.holds))];
  return order.map((holds) => ({ holds, sums: sums.filter((s) => s.holds === holds) }));
}

export function QuickSums({ open, first, onClose }: { open: boolean; /** Opened at once; none: all of them. */ first: string | null; onClose: () => void }) {
  const { data: sums } = useQuery({ ...sumsQuery, enabled: open });
  const [search, setSearch] = useState("");
  const [chosen, setChosen] = useState<string | null>(first);
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = (sums ?? []).filter((s) => words.every((w) => `${s.name} ${s.title} ${s.words.join(" ")} ${s.holds}`.toLowerCase().includes(w)));
  const groups = useGroups(found);
  const current = sums?.find((s) => s.name === chosen);
  return (
    <Drawer anchor="right" open={open} onClose={onClose} slotProps={{ paper: { sx: { width: "min(440px, 96vw)", p: 2 }, "aria-label": "quick sums" } }}>
      <Box className="flex gap-1 mb-1">
        <TextField label="Find a sum" value={search} onChange={(e) => { setSearch(e.target.value); setChosen(null); }} />
        <Button onClick={onClose}>Close</Button>
      </Box>
      {current ? (
        <>
          <Button variant="text" onClick={() => setChosen(null)}>‹ all sums</Button>
          <OneSum key={current.name} sum={current} />
        </>
      ) : (
        <>
          {groups.map((group) => (
            <Box component="section" key={group.holds} aria-label={named(group.holds)} className="sum-group">
              <Box className="flex gap-1 items-center"><HeldGlyph holds={group.holds} /><Typography variant="h2">{capital(named(group.holds))}</Typography></Box>
              <Box component="ul" className="no-marks p-0 m-0">
                {group.sums.map((s) => (
                  <li key={s.name}>
                    <Button variant="text" fullWidth className="start text-align-left plain gap-1_5" onClick={() => setChosen(s.name)}><SmallFigure sum={s} />{s.title}</Button>
                  </li>
                ))}
              </Box>
            </Box>
          ))}
          {sums && found.length === 0 && <Typography className="p-1">No sum has these words. Try fewer.</Typography>}
        </>
      )}
    </Drawer>
  );
}
