import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answered, client, type ImportPreview, type TrialBook, type TrialView } from "../../api/client";
import { counted } from "../../look/counted";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { Problem } from "../../parts/Problem";
import { asSent } from "../../parts/sent";

/** A logger's file: look at what it says, answer what must be asked, then import. */
const SKIP = "skip";
type Sent = Awaited<ReturnType<typeof asSent>>;

interface How {
  units: Record<string, string>;
  clock: "site" | "standard" | "utc";
  answers: Record<string, string>;
}

const AS_IT_IS: How = { units: {}, clock: "site", answers: {} };

export function ImportReadings({ trial, book }: { trial: TrialView; book: TrialBook }) {
  const cache = useQueryClient();
  const { units } = usePrefs();
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<Sent | null>(null);
  const [found, setFound] = useState<ImportPreview | null>(null);
  const [how, setHow] = useState<How>(AS_IT_IS);
  const [goes, setGoes] = useState<Record<string, string>>({});
  const [skip, setSkip] = useState(false);

  const look = useMutation({
    mutationFn: (ask: { file: Sent; how: How }) =>
      answered(client.POST("/api/trials/{id}/import/preview", { params: { path: { id: trial.id } }, body: { ...ask.file, ...ask.how } })),
    onSuccess: (answer) => {
      setFound(answer);
      setGoes((old) => ({ ...answer.goes_to, ...Object.fromEntries(Object.entries(old).filter(([c]) => c in answer.goes_to)) }));
    },
  });
  const take = useMutation({
    mutationFn: () =>
      answered(
        client.POST("/api/trials/{id}/import", {
          params: { path: { id: trial.id } },
          body: { ...file!, ...how, bad_rows: skip ? "skip" : "stop", columns: Object.entries(goes).filter(([, to]) => to !== SKIP).map(([column, to]) => ({ column, channel: channelOf(to, trial, book) })) },
        }),
      ),
    onSuccess: () => {
      setFound(null);
      setFile(null);
      refresh();
    },
  });
  const refresh = () => {
    for (const key of [["trial", trial.id], ["series", trial.id], ["trials"]]) void cache.invalidateQueries({ queryKey: key });
  };
  const whole = (part: number) => ({ params: { path: { id: trial.id, part_id: part } } });
  const back = useMutation({ mutationFn: (part: number) => answered(client.POST("/api/trials/{id}/imports/{part_id}/withdraw", whole(part))), onSuccess: refresh });
  const bring = useMutation({
    mutationFn: (part: number) => answered(client.POST("/api/trials/{id}/imports/{part_id}/restore", whole(part))),
    onSuccess: () => {
      back.reset();
      refresh();
    },
  });
  const open = (sent: Sent) => {
    setFile(sent);
    setFound(null);
    setHow(AS_IT_IS);
    setGoes({});
    take.reset();
    back.reset();
    look.mutate({ file: sent, how: AS_IT_IS });
  };
  const again = (next: How) => {
    setHow(next);
    if (file) look.mutate({ file, how: next });
  };
  const preview = found?.preview;

  return (
    <Box component="section" aria-label="import readings" className="mt-2 border-top-1-ink pt-1">
      <Typography variant="h2">Readings from a file</Typography>
      <Button onClick={() => input.current?.click()} className="mt-0_5">Choose a CSV …</Button>
      <input ref={input} type="file" hidden accept=".csv,.txt,.tsv" aria-label="readings file" onChange={(e) => { const chosen = e.target.files?.[0]; if (chosen) void asSent(chosen).then(open); e.target.value = ""; }} />
      {look.error && <Problem error={look.error} />}
      {take.data && (
        <Box className="flex gap-1 items-center wrap">
          <Typography role="status">
            {back.data ? "Taken back: none of this file counts any more." : `Imported: ${take.data.result.written} new, ${take.data.result.repeated} there already, ${take.data.result.flagged.length} flagged, ${take.data.preview.refused_count} rows refused.`}
          </Typography>
          {take.data.result.written > 0 && take.data.result.import_id != null && (
            <Button disabled={back.isPending || bring.isPending} onClick={() => (back.data ? bring.mutate(take.data.result.import_id!) : back.mutate(take.data.result.import_id!))}>{back.data ? "Bring it back" : "Take the whole file back"}</Button>
          )}
        </Box>
      )}
      {found && preview && file && (
        <Box className="mt-1">
          <Typography>
            <b>{file.name}</b>: {preview.readings} readings, columns split by “{preview.delimiter === "\t" ? "tab" : preview.delimiter}”{preview.decimal_comma ? ", decimal comma" : ""}; times as {preview.clock}.
            {found.remembered && " The columns go where they went last time."}
          </Typography>
          {preview.notes.map((note, k) => <Typography key={k}>{say(note, units)}</Typography>)}
          {preview.clock_open && (
            <Box className="max-width-420 mt-1">
              <Choice label="The logger's clock keeps" value={how.clock} hint="the stamps carry no zone" options={Object.entries(book.clocks).map(([value, title]) => ({ value, title: String(title) }))} onChange={(v) => again({ ...how, clock: v as How["clock"] })} />
            </Box>
          )}
          {preview.questions.map((q) => (
            <Box key={q.code} className="border-left-6-sun pl-1_5 my-1">
              <Choice
                label="Needs an answer" value={how.answers[q.code] ?? ""} hint={say(q.text, units)} options={[{ value: "", title: "choose …" }, ...q.answers.map((a) => ({ value: a.code, title: a.title }))]}
                onChange={(v) => again({ ...how, answers: { ...how.answers, [q.code]: v } })}
              />
            </Box>
          ))}
          {how.answers["clock-off"] && <Typography>The clock was answered: {how.answers["clock-off"] === "keep" ? "the stamps are right" : `all of it moved by ${how.answers["clock-off"].slice(6)} min`}. <Button variant="text" onClick={() => again({ ...how, answers: without(how.answers, "clock-off") })}>ask again</Button></Typography>}
          {preview.columns.map((column) => (
            <ColumnRow
              key={column.name} column={column} book={book} trial={trial} to={goes[column.name] ?? SKIP}
              onTo={(to) => setGoes({ ...goes, [column.name]: to })} onUnit={(unit) => again({ ...how, units: { ...how.units, [column.name]: unit } })}
            />
          ))}
          {preview.refused.length > 0 && (
            <Box className="mt-1">
              <Typography className="weight-700">{counted(preview.refused_count, "row")} cannot be used{preview.refused_count > preview.refused.length && `, the first ${preview.refused.length} of them are listed`}</Typography>
              <Box className="max-height-120 overflow-auto my-0_5" tabIndex={0} role="region" aria-label="refused rows">
                <ul>{preview.refused.map((r) => <li key={`${r.row}${r.reason}`}>row {r.row}: {r.reason}</li>)}</ul>
              </Box>
              <FormControlLabel label="import the others without them" control={<Checkbox checked={skip} onChange={(_, on) => setSkip(on)} />} />
            </Box>
          )}
          {take.error && <Problem error={take.error} />}
          <TextField multiline maxRows={6} label="First rows as they stand" value={[preview.header.join("  "), ...preview.first_rows.map((r) => r.join("  "))].join("\n")} slotProps={{ htmlInput: { readOnly: true } }} className="mt-1" />
          <Box className="flex gap-1 mt-1">
            <Button variant="contained" disabled={take.isPending || look.isPending} onClick={() => take.mutate()}>Import</Button>
            <Button onClick={() => { setFound(null); setFile(null); }}>Leave it</Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}

interface ColumnProps {
  column: ImportPreview["preview"]["columns"][number];
  book: TrialBook;
  trial: TrialView;
  to: string;
  onTo: (to: string) => void;
  onUnit: (unit: string) => void;
}

function ColumnRow({ column, book, trial, to, onTo, onUnit }: ColumnProps) {
  const { units } = usePrefs();
  const warm = column.quantity === "temperature";
  const fits = trial.channels.filter((c) => c.quantity === column.quantity);
  const fresh = trial.places.map((p) => p.channel).filter((c) => !trial.channels.some((have) => have.node === c.node));
  return (
    <Box className="column-row">
      <Typography className="pt-1">
        <b>{column.name}</b>: {column.count} values{warm && column.low != null && column.high != null && `, ${withUnit(column.low, "temperature", units)} to ${withUnit(column.high, "temperature", units)}`}
      </Typography>
      <Choice label={`Unit of ${column.name}`} value={column.unit} hint={column.unit_seen ? "read off the file" : "the file does not say: is this right?"} options={book.units.map((u) => ({ value: u.name, title: u.title }))} onChange={onUnit} />
      <Choice
        label={`${column.name} goes to`} value={to} onChange={onTo}
        options={[...fits.map((c) => ({ value: `have:${c.name}`, title: c.title })), ...fresh.map((c) => ({ value: `new:${c.node}`, title: `new channel: ${c.title}` })), { value: SKIP, title: "leave it out" }]}
      />
    </Box>
  );
}

function without(answers: Record<string, string>, code: string): Record<string, string> {
  return Object.fromEntries(Object.entries(answers).filter(([key]) => key !== code));
}

/** The channel that a column goes to; a new one is read by the logger where it is a thermometer. */
function channelOf(target: string, trial: TrialView, book: TrialBook) {
  const have = trial.channels.find((c) => `have:${c.name}` === target);
  if (have) return have;
  const { channel } = trial.places.find((p) => `new:${p.channel.node}` === target)!;
  const warm = book.instruments.find((i) => i.name === channel.instrument)?.quantity === "temperature";
  return { ...channel, instrument: warm ? "logger" : channel.instrument };
}
