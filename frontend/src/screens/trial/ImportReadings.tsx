import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answered, client, type Preview, type TrialView } from "../../api/client";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { Problem } from "../../parts/Problem";
import { titleOfNode } from "../build/TrialsStage";

/** A logger's file: look at what it says, answer what must be asked, then import. */
const NODES = ["inside-air", "contents", "tray", "walls", "cover-1", "air", "outside"];
const SKIP = "skip";

export function ImportReadings({ trial }: { trial: TrialView }) {
  const cache = useQueryClient();
  const { units } = usePrefs();
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<{ name: string; text: string } | null>(null);
  const [preview, setPreview] = useState<Preview | null>(null);
  const [goes, setGoes] = useState<Record<string, string>>({});
  const [unitOf, setUnitOf] = useState<Record<string, "C" | "F">>({});
  const [accepted, setAccepted] = useState<string[]>([]);
  const [skip, setSkip] = useState(false);

  const look = useMutation({
    mutationFn: (ask: { name: string; text: string; units: Record<string, "C" | "F"> }) =>
      answered(client.POST("/api/trials/{id}/import/preview", { params: { path: { id: trial.id } }, body: ask })),
    onSuccess: (found) => {
      setPreview(found);
      setGoes((old) => Object.fromEntries(found.columns.map((c) => [c.name, old[c.name] ?? guess(c.name, trial)])));
    },
  });
  const take = useMutation({
    mutationFn: () =>
      answered(
        client.POST("/api/trials/{id}/import", {
          params: { path: { id: trial.id } },
          body: {
            ...file!, units: unitOf, accepted, bad_rows: skip ? "skip" : "stop",
            columns: Object.entries(goes).filter(([, node]) => node !== SKIP).map(([column, target]) => ({ column, channel: channelOf(target, trial) })),
          },
        }),
      ),
    onSuccess: () => {
      setPreview(null);
      setFile(null);
      void cache.invalidateQueries({ queryKey: ["trial", trial.id] });
      void cache.invalidateQueries({ queryKey: ["trials"] });
    },
  });
  const open = (name: string, text: string) => {
    setFile({ name, text });
    setPreview(null);
    setAccepted([]);
    take.reset();
    look.mutate({ name, text, units: {} });
  };
  const reread = (column: string, unit: "C" | "F") => {
    const next = { ...unitOf, [column]: unit };
    setUnitOf(next);
    if (file) look.mutate({ ...file, units: next });
  };

  return (
    <Box component="section" aria-label="import readings" sx={(t) => ({ mt: 2, borderTop: `1px solid ${t.ink.ink}`, pt: 1 })}>
      <Typography variant="h2">Readings from a file</Typography>
      <Button onClick={() => input.current?.click()} sx={{ mt: 0.5 }}>Choose a CSV …</Button>
      <input ref={input} type="file" hidden accept=".csv,.txt,.tsv" aria-label="readings file" onChange={(e) => { const chosen = e.target.files?.[0]; if (chosen) void chosen.text().then((text) => open(chosen.name, text)); e.target.value = ""; }} />
      {look.error && <Problem error={look.error} />}
      {take.data && <Typography role="status">Imported: {take.data.result.written} new, {take.data.result.repeated} there already, {take.data.result.flagged.length} flagged, {take.data.preview.refused.length} rows refused.</Typography>}
      {preview && file && (
        <Box sx={{ mt: 1 }}>
          <Typography>
            <b>{file.name}</b>: {preview.readings} readings, columns split by “{preview.delimiter === "\t" ? "tab" : preview.delimiter}”{preview.decimal_comma ? ", decimal comma" : ""}; times as {preview.clock}.
          </Typography>
          {preview.columns.map((column) => (
            <Box key={column.name} sx={{ display: "grid", gridTemplateColumns: "1.2fr 1fr 1.4fr", gap: 1, alignItems: "start", mt: 1 }}>
              <Typography sx={{ pt: 1 }}>
                <b>{column.name}</b>: {column.count} values{column.low_c != null && column.high_c != null && `, ${withUnit(column.low_c, "temperature", units)} to ${withUnit(column.high_c, "temperature", units)}`}
              </Typography>
              <Choice label={`Unit of ${column.name}`} value={column.unit} hint={column.unit_seen ? "read off the file" : "the file does not say: is this right?"} options={[{ value: "C", title: "°C" }, { value: "F", title: "°F" }]} onChange={(u) => reread(column.name, u as "C" | "F")} />
              <Choice
                label={`${column.name} goes to`} value={goes[column.name] ?? SKIP} onChange={(v) => setGoes({ ...goes, [column.name]: v })}
                options={[...trial.channels.map((c) => ({ value: `have:${c.name}`, title: c.title })), ...NODES.filter((n) => !trial.channels.some((c) => c.node === n)).map((n) => ({ value: n, title: `new channel: ${titleOfNode(n)}` })), { value: SKIP, title: "leave it out" }]}
              />
            </Box>
          ))}
          {preview.questions.map((q) => (
            <FormControlLabel key={q.code} label={q.text} control={<Checkbox checked={accepted.includes(q.code)} onChange={(_, on) => setAccepted(on ? [...accepted, q.code] : accepted.filter((c) => c !== q.code))} />} />
          ))}
          {preview.refused.length > 0 && (
            <Box sx={{ mt: 1 }}>
              <Typography sx={{ fontWeight: 700 }}>{preview.refused.length} rows cannot be used</Typography>
              <Box sx={{ maxHeight: 120, overflow: "auto", my: 0.5 }} tabIndex={0} role="region" aria-label="refused rows">
                <ul>{preview.refused.slice(0, 200).map((r) => <li key={`${r.row}${r.reason}`}>row {r.row}: {r.reason}</li>)}</ul>
              </Box>
              <FormControlLabel label="import the others without them" control={<Checkbox checked={skip} onChange={(_, on) => setSkip(on)} />} />
            </Box>
          )}
          {take.error && <Problem error={take.error} />}
          <TextField multiline maxRows={6} label="First rows as they stand" value={[preview.header.join("  "), ...preview.first_rows.map((r) => r.join("  "))].join("\n")} slotProps={{ htmlInput: { readOnly: true } }} sx={{ mt: 1 }} />
          <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
            <Button variant="contained" disabled={take.isPending} onClick={() => take.mutate()}>Import</Button>
            <Button onClick={() => { setPreview(null); setFile(null); }}>Leave it</Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}

function guess(column: string, trial: TrialView): string {
  const words = column.toLowerCase();
  const match = trial.channels.find((c) => words.includes(c.name.split("-")[0]!) || words.includes(c.title.toLowerCase()));
  return match ? `have:${match.name}` : trial.channels.length === 1 ? `have:${trial.channels[0]!.name}` : SKIP;
}

function channelOf(target: string, trial: TrialView) {
  const have = trial.channels.find((c) => `have:${c.name}` === target);
  if (have) return have;
  return { name: target === "outside" ? "control" : target, title: titleOfNode(target), node: target, is_control: target === "outside", instrument: "logger" };
}
