import { Box, Button, Drawer, TextField, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, client, type SumView } from "../api/client";
import { sumsQuery } from "../api/queries";
import { Problem } from "./Problem";

/** A drawer over any screen: every hand calculation as a form, its result live, formula and source under it. */
interface Field {
  name: string;
  required: boolean;
  isText: boolean;
  fallback: unknown;
  hint: string;
}

interface Property {
  type?: string;
  anyOf?: { type?: string; format?: string }[];
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
      fallback: property.default,
      hint: property.description ?? (property.format ? `as ${property.format}` : ""),
    };
  });
}

function inputsOf(fields: Field[], typed: Record<string, string>): Record<string, unknown> {
  const out: Record<string, unknown> = {};
  for (const field of fields) {
    const text = typed[field.name]?.trim();
    if (text) out[field.name] = field.isText || Number.isNaN(Number(text)) ? text : Number(text);
  }
  return out;
}

function spaced(name: string): string {
  return name.replaceAll("_", " ");
}

function told(value: unknown): string {
  if (typeof value !== "number") return value === null ? "not asked" : String(value);
  return String(Number(value.toPrecision(5)));
}

function OneSum({ sum }: { sum: SumView }) {
  const fields = fieldsOf(sum);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const ready = fields.every((f) => !f.required || typed[f.name]?.trim());
  const inputs = inputsOf(fields, typed);
  const { data, error } = useQuery({
    queryKey: ["sum", sum.name, inputs],
    queryFn: () => answered(client.POST("/api/sums/{name}", { params: { path: { name: sum.name } }, body: inputs })),
    enabled: ready,
    retry: false,
  });
  return (
    <Box>
      <Typography variant="h2" sx={{ my: 1 }}>{sum.title}</Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
        {fields.map((field) => (
          <TextField
            key={field.name} label={spaced(field.name) + (field.required ? "" : " (optional)")} value={typed[field.name] ?? ""}
            placeholder={field.fallback == null ? "" : String(field.fallback)} helperText={field.hint || " "}
            onChange={(e) => setTyped({ ...typed, [field.name]: e.target.value })} slotProps={{ inputLabel: { shrink: true } }}
          />
        ))}
      </Box>
      <Box aria-live="polite">
        {error && <Problem error={error} />}
        {data && (
          <Box component="dl" sx={(t) => ({ m: 0, p: 1.5, border: `1px solid ${t.ink.ink}` })}>
            {Object.entries(data.result).map(([name, value]) => (
              <Box key={name} sx={{ display: "flex", justifyContent: "space-between" }}>
                <dt>{spaced(name)}</dt>
                <Box component="dd" sx={{ m: 0, fontWeight: 700, fontSize: 18 }}>{told(value)}</Box>
              </Box>
            ))}
          </Box>
        )}
      </Box>
      <details>
        <summary>Formula and source</summary>
        <Typography variant="body2">{sum.formula}</Typography>
        <Typography variant="body2">{sum.source}</Typography>
      </details>
    </Box>
  );
}

export function QuickSums({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { data: sums } = useQuery({ ...sumsQuery, enabled: open });
  const [search, setSearch] = useState("");
  const [chosen, setChosen] = useState<string | null>(null);
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = (sums ?? []).filter((s) => words.every((w) => `${s.name} ${s.title} ${s.words.join(" ")}`.toLowerCase().includes(w)));
  const current = sums?.find((s) => s.name === chosen);
  return (
    <Drawer anchor="right" open={open} onClose={onClose} slotProps={{ paper: { sx: { width: "min(440px, 96vw)", p: 2 }, "aria-label": "quick sums" } }}>
      <Box sx={{ display: "flex", gap: 1, mb: 1 }}>
        <TextField label="Find a sum" value={search} autoFocus onChange={(e) => { setSearch(e.target.value); setChosen(null); }} />
        <Button onClick={onClose}>Close</Button>
      </Box>
      {current ? (
        <>
          <Button variant="text" onClick={() => setChosen(null)}>‹ all sums</Button>
          <OneSum key={current.name} sum={current} />
        </>
      ) : (
        <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {found.map((s) => (
            <li key={s.name}>
              <Button variant="text" fullWidth sx={{ justifyContent: "flex-start", textAlign: "left" }} onClick={() => setChosen(s.name)}>{s.title}</Button>
            </li>
          ))}
          {sums && found.length === 0 && <Typography sx={{ p: 1 }}>No sum has these words. Try fewer.</Typography>}
        </Box>
      )}
    </Drawer>
  );
}
