import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answered, asProblem, client, type TrialBook, type TrialView } from "../../api/client";
import { counted } from "../../look/counted";
import { dateTimeWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { keep, kept, usePrefs } from "../../look/prefs";
import { READ_AS } from "../../look/readAs";
import { say, unitOf } from "../../look/units";
import { Problem } from "../../parts/Problem";
import { PhotoButton } from "./Photos";
import { useOutbox } from "./useOutbox";

/** A paper chart, copied row by row: a time and a column for each channel; nothing is sent until it can all be read. */
interface Row {
  at: string;
  values: Record<string, string>;
}

const EMPTY: Row = { at: "", values: {} };
const FRESH = Array.from({ length: 6 }, () => EMPTY);
/** The note of a photo of the paper, and to show whichever of them came last. */
const PAPER = "paper chart";
const NEWEST = "newest";
const isEmpty = (row: Row) => row.at.trim() === "" && Object.values(row.values).every((v) => v.trim() === "");

export function PaperTable({ trial, book }: { trial: TrialView; book: TrialBook }) {
  const { site } = useDay();
  const { units: mine } = usePrefs();
  const notices = useNotices();
  const cache = useQueryClient();
  const key = `drylamp.paper.${trial.id}`;
  const [rows, setRows] = useState<Row[]>(() => kept<Row[]>(key, FRESH));
  const outbox = useOutbox(trial.id);
  const [picked, setPicked] = useState<number | typeof NEWEST | null>(null);
  const photo = picked === NEWEST ? (trial.photos.filter((p) => p.note === PAPER).at(-1)?.id ?? null) : picked;
  useEffect(() => keep(key, rows), [key, rows]);
  const unitsOf = Object.fromEntries(trial.channels.map((c) => {
    const symbol = unitOf(READ_AS[c.quantity].value, mine).symbol;
    return [c.name, (book.units.find((u) => u.quantity === c.quantity && u.title === symbol) ?? book.units.find((u) => u.name === book.usual_units[c.quantity])!)];
  }));
  const units = Object.fromEntries(Object.entries(unitsOf).map(([name, unit]) => [name, unit.name]));
  const written = rows.map((row, i) => ({ row, i })).filter(({ row }) => !isEmpty(row));
  const asked = written.map(({ row }) => row);
  const path = { id: trial.id };
  const look = useQuery({
    queryKey: ["paper", trial.id, asked, units],
    queryFn: ({ signal }) => answered(client.POST("/api/trials/{id}/paper", { params: { path }, body: { rows: asked, units, write: false, ahead: false }, signal })),
    enabled: asked.length > 0, retry: false, placeholderData: (before) => before,
  });
  const lineOf = (i: number) => look.data?.lines[written.findIndex((w) => w.i === i)];
  const ahead = look.data?.lines.filter((l) => l.ahead).length ?? 0;
  const wrong = look.data?.lines.some((l) => Object.keys(l.problems).length > 0) ?? false;
  const write = useMutation({
    mutationFn: () => answered(client.POST("/api/trials/{id}/paper", { params: { path }, body: { rows: asked, units, write: true, ahead: ahead > 0 } })),
    onSuccess: ({ written: done }) => {
      if (!done) return;
      setRows(FRESH);
      void cache.invalidateQueries({ queryKey: ["trial", trial.id] });
      void cache.invalidateQueries({ queryKey: ["series", trial.id] });
      notices.say(`${done.written} readings are kept${done.repeated ? `; ${done.repeated} stood there already` : ""}.`);
      done.flagged.slice(0, 3).forEach((f) => notices.warn(say(f.flag_text, mine)));
      done.contradicting.slice(0, 3).forEach((c) => notices.warn(`There is already another value of ${c.channel} at ${dateTimeWords(c.time, site.time_zone)}; it was kept.`));
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const set = (i: number, change: (row: Row) => Row) =>
    setRows((old) => {
      const next = old.map((row, k) => (k === i ? change(row) : row));
      return isEmpty(next.at(-1)!) ? next : [...next, EMPTY];
    });
  return (
    <Box component="details" className="mt-2 border-top-1-ink pt-1">
      <Typography component="summary" variant="h2" className="display-list-item cursor-pointer">Type a paper chart</Typography>
      <Typography variant="body2">Time by the site’s clock: 10:05, 9:30 pm, +15 for minutes after the start; an hour earlier than the row above is the next day’s. What you type here waits until you keep it.</Typography>
      <Box className={photo === null ? "mt-1" : "paper-and-photo"}>
        <Box className="overflow-auto" tabIndex={0} role="region" aria-label="paper chart">
          <Box component="table" className="paper">
            <thead>
              <tr><th scope="col">time</th>{trial.channels.map((c) => <th scope="col" key={c.name}>{c.title}, {unitsOf[c.name]!.title}</th>)}<th scope="col">understood</th></tr>
            </thead>
            <tbody>
              {rows.map((row, i) => {
                const line = lineOf(i);
                return (
                  <tr key={i}>
                    <td><Cell label={`time of row ${i + 1}`} value={row.at} problem={line?.problems[""]} onType={(at) => set(i, (r) => ({ ...r, at }))} /></td>
                    {trial.channels.map((c) => (
                      <td key={c.name}><Cell label={`${c.title} in row ${i + 1}`} value={row.values[c.name] ?? ""} problem={line?.problems[c.name]} onType={(value) => set(i, (r) => ({ ...r, values: { ...r.values, [c.name]: value } }))} /></td>
                    ))}
                    <td className="size-13">{isEmpty(row) || !line ? "" : Object.values(line.problems)[0] ?? (line.time && `${dateTimeWords(line.time, site.time_zone)}${line.ahead ? ", ahead of the clock" : ""}`)}</td>
                  </tr>
                );
              })}
            </tbody>
          </Box>
        </Box>
        <Box>
          {photo !== null && <Box component="img" src={`/api/trials/${trial.id}/photos/${photo}`} alt="the paper" className="width-100pc border-1-ink as-block" />}
          <Box className="flex wrap gap-1 mt-0_5">
            <PhotoButton book={book} title="Photo of the paper" onTaken={(file) => { outbox.photo(file, PAPER); setPicked(NEWEST); }} />
            {trial.photos.map((p) => <Button key={p.id} variant={photo === p.id ? "contained" : "outlined"} aria-pressed={photo === p.id} onClick={() => setPicked(photo === p.id ? null : p.id)}>{p.note || dateTimeWords(p.time, site.time_zone)}</Button>)}
          </Box>
        </Box>
      </Box>
      {look.error && <Problem error={look.error} />}
      {ahead > 0 && !wrong && <Typography role="alert">{counted(ahead, "row")} ahead of this machine’s clock. Keep that only if it is meant.</Typography>}
      <Box className="flex gap-1 mt-1">
        <Button variant="contained" disabled={asked.length === 0 || wrong || look.isFetching || write.isPending} onClick={() => write.mutate()}>{ahead > 0 ? "Keep them all the same" : "Keep these readings"}</Button>
        <Button disabled={asked.length === 0} onClick={() => setRows(FRESH)}>Clear the table</Button>
      </Box>
    </Box>
  );
}

function Cell({ label, value, problem, onType }: { label: string; value: string; problem: string | undefined; onType: (text: string) => void }) {
  return <input aria-label={label} aria-invalid={problem !== undefined} title={problem} value={value} autoComplete="off" onChange={(e) => onType(e.target.value)} />;
}
