import { Box, Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answered, asProblem, client, type Line, type SkyState, type TrialBook } from "../../api/client";
import { bookQuery, knownQuery, linesQuery } from "../../api/queries";
import { useKind } from "../../kinds";
import { clockTime, dayOf, shiftDay } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { DayField, HourField } from "../../parts/DayField";
import { Choice } from "../../parts/Choice";
import { InstrumentChoice } from "../../parts/InstrumentChoice";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";
import { FourNumbers } from "./FourNumbers";
import type { BuildState } from "./useBuild";

/** Start a trial: the protocol says what to prepare and what to read; each channel names its instrument. */
type Protocol = TrialBook["protocols"][number];

export function StartTrial({ state, onClose }: { state: BuildState; onClose: () => void }) {
  const { data: book } = useQuery(bookQuery);
  const { spec, load } = state.draft!;
  const fitting = (book?.protocols ?? []).filter((p) => p.kinds.includes(spec.kind));
  const [name, setName] = useState<string | null>(null);
  const protocol = fitting.find((p) => p.name === name) ?? fitting[0];
  const lines = useQuery({ ...linesQuery(spec, load, protocol?.name ?? ""), enabled: protocol !== undefined });
  if (!book || !protocol) return null;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>Start a trial</DialogTitle>
      {lines.error && <Problem error={lines.error} />}
      {lines.data && <Form key={protocol.name} book={book} protocol={protocol} offered={lines.data} fitting={fitting} onProtocol={setName} state={state} onClose={onClose} />}
    </Dialog>
  );
}

interface FormProps {
  book: TrialBook;
  protocol: Protocol;
  offered: Line[];
  fitting: Protocol[];
  onProtocol: (name: string) => void;
  state: BuildState;
  onClose: () => void;
}

function Form({ book, protocol, offered, fitting, onProtocol, state, onClose }: FormProps) {
  const navigate = useNavigate();
  const cache = useQueryClient();
  const kind = useKind(state.draft!.spec);
  const { units } = usePrefs();
  const [name, setName] = useState("");
  const { siteId, site, now } = useDay();
  const [sky, setSky] = useState<SkyState | null>(null);
  const [begun, setBegun] = useState<{ day: string; hour: string } | null>(null);
  const known = useQuery(knownQuery(siteId, begun?.day ?? dayOf(now, site.time_zone))).data;
  const [preheated, setPreheated] = useState(false);
  const [withLoad, setWithLoad] = useState(false);
  const [goalC, setGoalC] = useState<number | null>(null);
  const [goalMinutes, setGoalMinutes] = useState<number | null>(null);
  const [lines, setLines] = useState<Line[]>(offered);
  const loaded = protocol.needs_load || withLoad;
  const shown = lines.filter((l) => !l.place.of_load || loaded);
  const chosen = shown.filter((l) => l.wanted);
  const aim = chosen.find((l) => l.place.inside)?.place.channel;
  const channelOf = (l: Line) => l.place.channel;
  const want = (at: Line, wanted: boolean) => setLines((old) => old.map((l) => (channelOf(l).name === channelOf(at).name ? { ...l, wanted } : l)));
  const read = (which: (l: Line) => boolean, instrument: string) =>
    setLines((old) => old.map((l) => (which(l) ? { ...l, place: { ...l.place, channel: { ...channelOf(l), instrument } } } : l)));
  // One device walks along these, so that its error cancels in their differences.
  const walked = shown.filter((l) => l.walked);
  const isAhead = begun !== null && `${begun.day} ${begun.hour}` > `${dayOf(now, site.time_zone)} ${clockTime(now, site.time_zone)}`;
  const start = useMutation({
    mutationFn: () =>
      answered(
        client.POST("/api/trials", {
          body: {
            build_id: state.build!.id, name: name.trim() || protocol.title, protocol: protocol.name, sky, preheated, begun, ahead: isAhead,
            load: loaded ? state.draft!.load : null, channels: chosen.map(channelOf),
            goal: goalC !== null && aim ? { node: aim.node, at_least_c: goalC, within_minutes: goalMinutes } : null,
          },
        }),
      ),
    onSuccess: (trial) => {
      void cache.invalidateQueries({ queryKey: ["trials"] });
      void navigate(`/trials/${trial.id}`);
    },
  });
  const needsPot = protocol.needs_load && !state.draft?.load;
  return (
    <>
      <DialogContent className="two-columns pt-8px">
        <Box className="grid gap-1 align-content-start">
          <Choice label="Protocol" value={protocol.name} options={fitting.map((p) => ({ value: p.name, title: p.title }))} hint={say(protocol.purpose, units)} onChange={onProtocol} />
          <Box className="pairs">
            <TextField label="Name" value={name} placeholder={protocol.title} onChange={(e) => setName(e.target.value)} helperText=" " slotProps={{ inputLabel: { shrink: true } }} />
            {!begun && <Choice label="Sky now" value={sky ?? known?.typed?.sky ?? "clear"} options={book.sky_states.map((s) => ({ value: s, title: s }))} onChange={(v) => setSky(v as SkyState)} />}
          </Box>
          <FormControlLabel label="it began earlier; the readings stand on paper or in a file" control={<Checkbox size="small" checked={begun !== null} onChange={(_, on) => { setSky(null); setBegun(on ? { day: shiftDay(dayOf(now, site.time_zone), -1), hour: "10:00" } : null); }} />} />
          {begun && (
            <>
              <Box className="pairs">
                <DayField label="Day" value={begun.day} onCommit={(day) => setBegun({ ...begun, day })} />
                <HourField label="Began at" value={begun.hour} onCommit={(hour) => setBegun({ ...begun, hour })} hint="by the site’s clock" />
              </Box>
              {known && <FourNumbers known={known} day={begun.day} onTyped={() => setSky(null)} />}
            </>
          )}
          <Box role="group" aria-label="what is read">
            <Typography variant="h3">What is read, and with what</Typography>
            {walked.length > 0 && (
              <>
                <Box className="flex wrap">
                  {walked.map((l) => (
                    <FormControlLabel key={channelOf(l).name} label={channelOf(l).title} control={<Checkbox size="small" checked={l.wanted} onChange={(_, on) => want(l, on)} />} />
                  ))}
                </Box>
                <Box className="max-width-320"><InstrumentChoice book={book} channel={{ ...channelOf(walked[0]!), title: "all of these" }} onChange={(instrument) => read((l) => l.walked, instrument)} /></Box>
              </>
            )}
            {shown.filter((l) => !l.walked).map((l) => (
              <Box key={channelOf(l).name} className="pairs items-center">
                <FormControlLabel label={channelOf(l).title} control={<Checkbox size="small" checked={l.wanted} onChange={(_, on) => want(l, on)} />} />
                {l.wanted && <InstrumentChoice book={book} channel={channelOf(l)} onChange={(instrument) => read((other) => channelOf(other).name === channelOf(l).name, instrument)} />}
              </Box>
            ))}
          </Box>
          {!protocol.needs_load && state.draft?.load && <FormControlLabel label="with what is in it" control={<Checkbox size="small" checked={withLoad} onChange={(_, on) => setWithLoad(on)} />} />}
          {!kind.side_by_side && !protocol.starts_hot && <FormControlLabel label="it stood empty in the sun for an hour before" control={<Checkbox size="small" checked={preheated} onChange={(_, on) => setPreheated(on)} />} />}
          {!kind.side_by_side && aim && (
            <Box className="pairs">
              <NumberField label={`Goal: ${aim.title} at`} value={goalC} quantity="temperature" hint="left empty: no goal" onCommit={setGoalC} />
              <NumberField label="Within" value={goalMinutes} quantity="minutes" hint="left empty: at any time" onCommit={setGoalMinutes} />
            </Box>
          )}
        </Box>
        <Box>
          <Typography variant="h3">Before you start</Typography>
          <Box component="ol" className="pl-2_5 mt-0_5">{protocol.checklist.map((line, k) => <li key={k}>{say(line, units)}</li>)}</Box>
          {protocol.cautions.length > 0 && (
            <Box className="border-left-6-stop pl-1_5 my-1">{protocol.cautions.map((line, k) => <Typography key={k}>{say(line, units)}</Typography>)}</Box>
          )}
          <Typography variant="body2">
            {protocol.reading_minutes.length > 0 ? `Readings at ${timesWords(protocol.reading_minutes)}. ` : "Read whenever you like. "}{say(protocol.end_rule, units)}
          </Typography>
          {needsPot && <Typography role="alert">This protocol needs something in it: put it in on the make stage first.</Typography>}
          {isAhead && <Typography role="alert">That lies ahead of this machine’s clock; start it only if it is meant.</Typography>}
          {start.error && <Problem error={asProblem(start.error)} />}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Not now</Button>
        <Button variant="contained" disabled={start.isPending || chosen.length === 0 || needsPot} onClick={() => start.mutate()}>{begun ? "Begin the trial" : "Start the clock"}</Button>
      </DialogActions>
    </>
  );
}

function timesWords(minutes: number[]): string {
  const weeks = minutes.every((m) => m % 10_080 === 0);
  const [list, unit] = weeks ? [minutes.map((m) => m / 10_080), "weeks"] : [minutes, "min"];
  return list.length > 8 ? `${list.slice(0, 3).join(", ")} … ${list.at(-1)} ${unit}` : `${list.join(", ")} ${unit}`;
}
