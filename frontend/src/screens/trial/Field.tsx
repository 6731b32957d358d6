import { Box, Button, Link as MuiLink, TextField, Typography } from "@mui/material";
import { useCallback, useRef, useState } from "react";
import type { TrialBook, TrialView } from "../../api/client";
import { clockTime, dateTimeWords } from "../../look/clock";
import { useDay, useNow } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { READ_AS, type Read } from "../../look/readAs";
import { useUnder } from "../../look/undo";
import { say, withUnit, type Units } from "../../look/units";
import { useKeys } from "../../parts/useKeys";
import { useTrialChanges } from "../../parts/useTrialChanges";
import { Countdown } from "./Countdown";
import { EventKeys } from "./EventKeys";
import { Keypad } from "./Keypad";
import { PhotoButton } from "./Photos";
import { useOutbox } from "./useOutbox";
import { useReadAloud, useReadingAlarm, useScreenAwake } from "./useReadingAlarm";

/** What a thumb needs in the sun, in one column. */
export function Field({ trial, book }: { trial: TrialView; book: TrialBook }) {
  const { units } = usePrefs();
  const { site } = useDay();
  const [picked, setPicked] = useState<string | null>(null);
  const [note, setNote] = useState("");
  const events = useRef<HTMLDivElement>(null);
  const pad = useRef<HTMLInputElement>(null);
  const { withdraw, finish } = useTrialChanges(trial.id);
  // In a round the probe walks on: what was picked by hand holds until the next value is kept.
  const channel = trial.channels.find((c) => c.name === picked) ?? trial.channels.find((c) => c.name === trial.read_next) ?? trial.channels[0]!;
  const quantity = channel.quantity;
  const mine = trial.readings.filter((r) => r.channel === channel.name);
  const last = mine.at(-1);
  const latest = trial.readings.filter((r) => r.source === "hand").at(-1) ?? trial.readings.at(-1);
  const running = trial.ended === null;
  const aloud = useReadAloud();

  const outbox = useOutbox(trial.id);
  const save = (value: number | null, unit: string, typed: string) => {
    outbox.send({ channel: channel.name, value, unit, typed });
    setPicked(after(trial, channel.name) ?? channel.name);
  };
  useKeys({ r: () => pad.current?.focus(), e: () => events.current?.querySelector("button")?.focus() });
  const takeLast = useCallback(() => latest && void withdraw(latest, { undone: true }), [latest, withdraw]);
  useUnder(latest ? `${titleOf(trial, latest.channel)}, ${clockTime(latest.time, site.time_zone)}` : null, takeLast);

  return (
    <Box className="border-1-ink p-1_5 align-self-start on-raised" component="section" aria-label="field mode">
      {running ? <Countdown trial={trial} /> : <Typography className="weight-700">Ended {dateTimeWords(trial.ended!, site.time_zone)}</Typography>}
      <Box role="group" aria-label="channel" className="flex gap-0_75 my-1 wrap">
        {trial.channels.map((c) => (
          <Button key={c.name} variant={c.name === channel.name ? "contained" : "outlined"} aria-pressed={c.name === channel.name} onClick={() => setPicked(c.name)} className="min-height-48 flex-1-1-auto px-1">
            {c.title}{trial.round_order.length > 0 && (trial.counts[c.name] ?? 0) > 0 ? ` ${trial.counts[c.name]}` : ""}
          </Button>
        ))}
      </Box>
      {running && trial.round_order.length > 0 && (
        <Typography className="weight-700" role="status">{trial.read_next ? `Round ${trial.rounds_done + 1}: read ${titleOf(trial, trial.read_next)}${isAgain(trial) ? " again, to see what moved" : ""}` : "Round done"}</Typography>
      )}
      <Box className="centred" aria-live="polite">
        <Box className="size-64 weight-750 line-height-1">{last ? shownValue(last, quantity, units, book) : "–"}</Box>
        <Box className="flex between items-center gap-1 min-height-44">
          {aloud.can && <Button variant="text" className="min-height-44 flex-none" disabled={!last} onClick={() => last && aloud.read(`${channel.title}, ${shownValue(last, quantity, units, book)}, at ${clockTime(last.time, site.time_zone)}${trendWords(mine, quantity, units)}`)}>Read it aloud</Button>}
          <Typography variant="body2" className="flex-1">{last ? `at ${clockTime(last.time, site.time_zone)}${trendWords(mine, quantity, units)}` : "no reading yet"}</Typography>
        </Box>
      </Box>
      {running && (
        <>
          <Keypad
            ref={pad} storageKey={`drylamp.typed.${trial.id}.${channel.name}`} label={channel.title} book={book} quantity={quantity}
            inWords={channel.instrument === "words"} onSave={save}
          />
          <EventKeys ref={events} trial={trial} book={book} onNote={outbox.note} />
          <Box className="flex gap-0_75 mt-1">
            <TextField label="Remark" value={note} onChange={(e) => setNote(e.target.value)} />
            <Button disabled={!note.trim()} onClick={() => { outbox.note("note", note.trim(), ""); setNote(""); }}>Note it</Button>
            <PhotoButton book={book} onTaken={(file) => { outbox.photo(file, note); setNote(""); }} />
          </Box>
        </>
      )}
      {running && trial.protocol.reading_minutes.length > 0 && <Alarm trial={trial} />}
      <Box className="flex between items-center gap-1_5 mt-1_5">
        <Button onClick={() => void finish(running)} className="min-height-44 flex-none">{running ? "End the trial" : "Go on with it"}</Button>
        {running && <Typography variant="body2">{say(trial.protocol.end_rule, units)}</Typography>}
      </Box>
    </Box>
  );
}

/** What makes the phone speak up: sound and a buzz here, alarms in its own calendar, a screen kept awake. */
function Alarm({ trial }: { trial: TrialView }) {
  const now = useNow(1000);
  const alarm = useReadingAlarm(trial.next_reading ? Date.parse(trial.next_reading) : null, now, { title: `Read “${trial.name}”`, address: `/trials/${trial.id}` });
  const awake = useScreenAwake();
  return (
    <Box className="flex wrap gap-0_75 mt-1_5 items-center">
      <Button aria-pressed={alarm.on} variant={alarm.on ? "contained" : "outlined"} onClick={alarm.toggle} className="min-height-48">{alarm.on ? "Sound on" : "Sound off"}</Button>
      {awake.can && <Button aria-pressed={awake.on} variant={awake.on ? "contained" : "outlined"} onClick={awake.toggle} className="min-height-48">{awake.on ? "Screen stays on" : "Screen may sleep"}</Button>}
      <MuiLink href={`/api/trials/${trial.id}/readings.ics`} color="inherit">alarms for a phone that sleeps</MuiLink>
    </Box>
  );
}

/** Which channel comes next in its round, until the server has said so itself; none where readings come as they like. */
function after(trial: TrialView, name: string): string | null {
  const order = trial.round_order.length > 0 ? trial.round_order : trial.protocol.reading_minutes.length > 0 ? trial.wanted : [];
  const at = order.indexOf(name);
  return at < 0 ? null : (order[at + 1] ?? order[0]!);
}

function titleOf(trial: TrialView, name: string): string {
  return trial.channels.find((c) => c.name === name)?.title ?? name;
}

/** The first sample's turn comes again at the end of a round. */
function isAgain(trial: TrialView): boolean {
  const first = trial.round_order[0];
  const last = trial.round_order.at(-1);
  return trial.read_next === first && trial.readings.at(-1)?.channel === last && trial.round_order.length > 1 && (trial.counts[first!] ?? 0) % 2 === 1;
}

export function shownValue(reading: TrialView["readings"][number], quantity: Read, units: Units, book: TrialBook): string {
  if (book.words.some((w) => w.word === reading.typed)) return reading.typed;
  if (reading.value === null) return "none";
  return withUnit(reading.value, READ_AS[quantity].value, units, { tenths: /[.,]\d/.test(reading.typed) });
}

/** What it did in ten minutes, from the last two readings. */
function trendWords(readings: TrialView["readings"], quantity: Read, units: Units): string {
  const [before, last] = readings.slice(-2);
  if (!before || !last || before.value === null || last.value === null || quantity !== "temperature") return "";
  const minutes = (Date.parse(last.time) - Date.parse(before.time)) / 60_000;
  if (minutes <= 0) return "";
  const trend = ((last.value - before.value) / minutes) * 10;
  return `, ${trend >= 0 ? "rising" : "falling"} ${withUnit(Math.abs(trend), "difference", units)} in 10 min`;
}
