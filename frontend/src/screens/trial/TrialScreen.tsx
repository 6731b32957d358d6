import { Box, Button, Link as MuiLink, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { answered, asProblem, client, type TrialView } from "../../api/client";
import { bookQuery, trialQuery, verdictQuery } from "../../api/queries";
import { clockTime, dateTimeWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { inUserUnits, kelvins, withUnit } from "../../look/units";
import { Problem, Waiting } from "../../parts/Problem";
import { TrialChart } from "../../parts/TrialChart";
import { useKeys } from "../../parts/useKeys";
import { Countdown } from "./Countdown";
import { ImportReadings } from "./ImportReadings";
import { Keypad } from "./Keypad";
import { useOutbox } from "./useOutbox";

/** Field mode: one hand, gloves, glare. Next reading's countdown, last value huge, keypad, six event keys. */
export default function TrialScreen() {
  const id = Number(useParams().trialId);
  const trial = useQuery({ ...trialQuery(id), refetchInterval: 10_000 });
  if (trial.error && !trial.data) return <Problem error={trial.error} />;
  if (!trial.data) return <Waiting what="Opening the trial" />;
  return <Trial trial={trial.data} />;
}

function Trial({ trial }: { trial: TrialView }) {
  const { site } = useDay();
  const verdict = useQuery({ ...verdictQuery(trial.id, trial.reading_count + trial.events.length), enabled: trial.reading_count > 0 }).data;
  return (
    <Box
      sx={{
        display: "grid", gridTemplateColumns: "minmax(320px, 400px) minmax(0, 1fr)", gap: 2, p: 2,
        "@media (max-width: 900px)": { gridTemplateColumns: "minmax(0, 1fr)", p: 1 },
      }}
    >
      <Field trial={trial} />
      <Box sx={{ minWidth: 0 }}>
        <Typography variant="h1">{trial.name}</Typography>
        <Typography variant="body2">
          <MuiLink component={Link} to={`/builds/${trial.build_id}/trials`} color="inherit">{trial.build_name}</MuiLink>, {trial.protocol.title}, started {dateTimeWords(trial.started, site.time_zone)}, noted sky: {trial.weather.sky ?? "clear"}
        </Typography>
        {verdict && <TrialChart trial={trial} verdict={verdict} zone={site.time_zone} height={280} />}
        <Log trial={trial} />
        <ImportReadings trial={trial} />
      </Box>
    </Box>
  );
}

function Field({ trial }: { trial: TrialView }) {
  const { units } = usePrefs();
  const { site } = useDay();
  const notices = useNotices();
  const cache = useQueryClient();
  const { data: book } = useQuery(bookQuery);
  const [channelName, setChannelName] = useState(trial.channels[0]!.name);
  const [note, setNote] = useState("");
  const events = useRef<HTMLDivElement>(null);
  const pad = useRef<HTMLInputElement>(null);
  const channel = trial.channels.find((c) => c.name === channelName) ?? trial.channels[0]!;
  const mine = trial.readings.filter((r) => r.channel === channel.name);
  const last = mine.at(-1);
  const trend = trendOf(mine);
  const refresh = () => {
    void cache.invalidateQueries({ queryKey: ["trial", trial.id] });
    void cache.invalidateQueries({ queryKey: ["trials"] });
    void cache.invalidateQueries({ queryKey: ["yard"] });
  };
  const restore = useMutation({
    mutationFn: (key: { channel: string; time: string }) =>
      answered(client.POST("/api/trials/{id}/readings/restore", { params: { path: { id: trial.id } }, body: { channel: key.channel, time: key.time } })),
    onSuccess: refresh,
  });
  const withdraw = useMutation({
    mutationFn: (key: { channel: string; time: string }) =>
      answered(client.POST("/api/trials/{id}/readings/withdraw", { params: { path: { id: trial.id } }, body: { channel: key.channel, time: key.time } })),
    onSuccess: (_, key) => {
      refresh();
      notices.say("Reading taken back.", { label: "Bring it back", run: () => restore.mutate(key) });
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const outbox = useOutbox(trial.id, (answer) => {
    refresh();
    answer.flagged.forEach((f) => notices.warn(inUserUnits(f.flag_text, units), { label: "Take it back", run: () => withdraw.mutate(f) }));
    answer.contradicting.forEach((c) => notices.warn(`There is already another value of ${c.channel} at ${clockTime(c.time, site.time_zone)}; it was kept.`));
  });
  const unnote = useMutation({
    mutationFn: (eventId: number) => answered(client.POST("/api/trials/{id}/events/{event_id}/withdraw", { params: { path: { id: trial.id, event_id: eventId } } })),
    onSuccess: refresh,
  });
  const event = useMutation({
    mutationFn: (kind: TrialView["events"][number]["kind"]) =>
      answered(client.POST("/api/trials/{id}/events", { params: { path: { id: trial.id } }, body: { kind, note } })),
    onSuccess: (next) => {
      setNote("");
      const made = next.events.at(-1);
      refresh();
      if (made) notices.say(`${made.kind} noted.`, { label: "Undo", run: () => unnote.mutate(made.id) });
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const finish = useMutation({
    mutationFn: (ended: boolean) => answered(client.POST("/api/trials/{id}/end", { params: { path: { id: trial.id } }, body: { ended } })),
    onSuccess: (_, ended) => {
      refresh();
      if (ended) notices.say("Trial ended.", { label: "Go on after all", run: () => finish.mutate(false) });
    },
  });
  const undoLast = () => { if (last) withdraw.mutate(last); };
  useKeys({ r: () => pad.current?.focus(), e: () => events.current?.querySelector("button")?.focus(), u: undoLast });

  const running = trial.ended === null;
  return (
    <Box sx={(t) => ({ border: `1px solid ${t.ink.ink}`, p: 1.5, alignSelf: "start", background: t.ink.raised })} component="section" aria-label="field mode">
      {running ? <Countdown trial={trial} /> : <Typography sx={{ fontWeight: 700 }}>Ended {dateTimeWords(trial.ended!, site.time_zone)}</Typography>}
      <Box role="group" aria-label="channel" sx={{ display: "flex", gap: 0.75, my: 1, flexWrap: "wrap" }}>
        {trial.channels.map((c) => (
          <Button key={c.name} variant={c.name === channel.name ? "contained" : "outlined"} aria-pressed={c.name === channel.name} onClick={() => setChannelName(c.name)} sx={{ minHeight: 48, flex: 1 }}>{c.title}</Button>
        ))}
      </Box>
      <Box sx={{ textAlign: "center" }} aria-live="polite">
        <Box sx={{ fontSize: 64, fontWeight: 750, lineHeight: 1 }}>{last ? withUnit(last.value_c, "temperature", units) : "–"}</Box>
        <Typography variant="body2">
          {last ? `at ${clockTime(last.time, site.time_zone)}${trend === null ? "" : `, ${trend >= 0 ? "rising" : "falling"} ${kelvins(Math.abs(trend), units)} in 10 min`}` : "no reading yet"}
        </Typography>
      </Box>
      {running && (
        <>
          <Keypad ref={pad} storageKey={`drylamp.typed.${trial.id}.${channel.name}`} label={channel.title} onSave={(value, unit, typed) => outbox.send({ channel: channel.name, value, unit, typed })} />
          {outbox.waiting > 0 && <Typography role="status" sx={{ fontWeight: 700 }}>{outbox.waiting} kept on this device until the server answers.</Typography>}
          <Box ref={events} role="group" aria-label="events" sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)", gap: 0.75, mt: 1.5 }}>
            {(book?.event_kinds ?? []).filter((k) => k !== "note").map((kind) => (
              <Button key={kind} onClick={() => event.mutate(kind)} sx={{ minHeight: 52, fontSize: 16 }}>{kind}</Button>
            ))}
          </Box>
          <Box sx={{ display: "flex", gap: 0.75, mt: 1 }}>
            <TextField label="Remark" value={note} onChange={(e) => setNote(e.target.value)} />
            <Button disabled={!note.trim()} onClick={() => event.mutate("note")}>Note it</Button>
          </Box>
        </>
      )}
      <Box sx={{ display: "flex", justifyContent: "space-between", mt: 1.5 }}>
        <Button onClick={undoLast} disabled={!last} sx={{ minHeight: 44 }}>Undo last  (u)</Button>
        <Button onClick={() => finish.mutate(running)} sx={{ minHeight: 44 }}>{running ? "End the trial" : "Go on with it"}</Button>
      </Box>
    </Box>
  );
}

/** Kelvin in ten minutes between the last two readings. */
function trendOf(readings: TrialView["readings"]): number | null {
  const [before, last] = readings.slice(-2);
  if (!before || !last) return null;
  const minutes = (Date.parse(last.time) - Date.parse(before.time)) / 60_000;
  return minutes > 0 ? ((last.value_c - before.value_c) / minutes) * 10 : null;
}

function Log({ trial }: { trial: TrialView }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const rows = [
    ...trial.readings.slice(-40).map((r) => ({
      at: r.time, text: `${trial.channels.find((c) => c.name === r.channel)?.title ?? r.channel} ${withUnit(r.value_c, "temperature", units)}`,
      more: r.flag_text ? inUserUnits(r.flag_text, units) : r.unit === "F" ? `typed as ${r.typed} °F` : "", odd: r.flag_code !== "",
    })),
    ...trial.events.map((e) => ({ at: e.time, text: e.kind, more: e.note, odd: false })),
  ].sort((a, b) => Date.parse(b.at) - Date.parse(a.at));
  return (
    <Box sx={{ mt: 2 }}>
      <Typography variant="h2">Log</Typography>
      <Box sx={{ maxHeight: 220, overflow: "auto" }} tabIndex={0} role="region" aria-label="log of readings and events">
      <Box component="ol" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {rows.map((row) => (
          <Box component="li" key={`${row.at}${row.text}`} sx={(t) => ({ display: "flex", gap: 2, py: 0.25, borderBottom: `1px solid ${t.ink.rule}`, color: row.odd ? t.ink.stop : t.ink.ink })}>
            <b>{clockTime(row.at, site.time_zone)}</b><span>{row.text}</span><span>{row.more}</span>
          </Box>
        ))}
        {rows.length === 0 && <li>Nothing yet.</li>}
      </Box>
      </Box>
    </Box>
  );
}
