import { Box, Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answered, asProblem, client, isSamples, isPortions, isPot, type ChannelView, type SkyState, type Spec, type TrialBook } from "../../api/client";
import { bookQuery } from "../../api/queries";
import { Choice } from "../../parts/Choice";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";
import type { BuildState } from "./useBuild";

/** Start a trial: the protocol says what to prepare and what to read; each channel names its instrument. */
type Protocol = TrialBook["protocols"][number];
interface Line {
  channel: ChannelView;
  wanted: boolean;
}

export function StartTrial({ state, onClose }: { state: BuildState; onClose: () => void }) {
  const { data: book } = useQuery(bookQuery);
  const kind = state.draft!.spec.kind ?? "box-oven";
  const fitting = (book?.protocols ?? []).filter((p) => p.kinds.includes(kind));
  const [name, setName] = useState<string | null>(null);
  const protocol = fitting.find((p) => p.name === name) ?? fitting[0];
  if (!book || !protocol) return null;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>Start a trial</DialogTitle>
      <Form key={protocol.name} book={book} protocol={protocol} fitting={fitting} onProtocol={setName} state={state} onClose={onClose} />
    </Dialog>
  );
}

interface FormProps {
  book: TrialBook;
  protocol: Protocol;
  fitting: Protocol[];
  onProtocol: (name: string) => void;
  state: BuildState;
  onClose: () => void;
}

function Form({ book, protocol, fitting, onProtocol, state, onClose }: FormProps) {
  const navigate = useNavigate();
  const cache = useQueryClient();
  const sampled = isSamples(state.draft!.spec);
  const [name, setName] = useState("");
  const [sky, setSky] = useState<SkyState>("clear");
  const [preheated, setPreheated] = useState(false);
  const [withLoad, setWithLoad] = useState(false);
  const [goalC, setGoalC] = useState<number | null>(null);
  const [goalMinutes, setGoalMinutes] = useState<number | null>(null);
  const [lines, setLines] = useState<Line[]>(() => linesOf(protocol, state));
  const loaded = protocol.needs_load || withLoad;
  const shown = lines.filter((l) => !ofLoad(l.channel.node) || loaded);
  const chosen = shown.filter((l) => l.wanted).map((l) => l.channel);
  const aim = chosen.find((c) => !c.is_control && !OUTSIDE.includes(c.node));
  const put = (at: ChannelView, next: Partial<Line>) => setLines((old) => old.map((l) => (l.channel.name === at.name ? { ...l, ...next } : l)));
  // One device walks along the samples and the board, so that its error cancels in their differences.
  const walked = protocol.in_rounds ? shown.filter((l) => l.channel.node.startsWith("sample-") || l.channel.node === "board") : [];
  const withAll = (instrument: string) => setLines((old) => old.map((l) => (walked.some((w) => w.channel.name === l.channel.name) ? { ...l, channel: { ...l.channel, instrument } } : l)));
  const start = useMutation({
    mutationFn: () =>
      answered(
        client.POST("/api/trials", {
          body: {
            build_id: state.build!.id, name: name.trim() || protocol.title, protocol: protocol.name, sky, preheated,
            load: loaded ? state.draft!.load : null, channels: chosen,
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
      <DialogContent sx={{ display: "grid", gridTemplateColumns: "minmax(0, 3fr) minmax(0, 2fr)", gap: 2, pt: "8px !important", "@media (max-width: 760px)": { gridTemplateColumns: "minmax(0, 1fr)" } }}>
        <Box sx={{ display: "grid", gap: 1, alignContent: "start" }}>
          <Choice label="Protocol" value={protocol.name} options={fitting.map((p) => ({ value: p.name, title: p.title }))} hint={protocol.purpose} onChange={onProtocol} />
          <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
            <TextField label="Name" value={name} placeholder={protocol.title} onChange={(e) => setName(e.target.value)} helperText=" " slotProps={{ inputLabel: { shrink: true } }} />
            <Choice label="Sky now" value={sky} options={book.sky_states.map((s) => ({ value: s, title: s }))} onChange={(v) => setSky(v as SkyState)} />
          </Box>
          <Box role="group" aria-label="what is read">
            <Typography variant="h3">What is read, and with what</Typography>
            {walked.length > 0 && (
              <>
                <Box sx={{ display: "flex", flexWrap: "wrap" }}>
                  {walked.map(({ channel, wanted }) => (
                    <FormControlLabel key={channel.name} label={channel.title} control={<Checkbox size="small" checked={wanted} onChange={(_, on) => put(channel, { wanted: on })} />} />
                  ))}
                </Box>
                <Box sx={{ maxWidth: 320 }}><InstrumentChoice book={book} channel={{ ...walked[0]!.channel, title: "all of these" }} onChange={withAll} /></Box>
              </>
            )}
            {shown.filter((l) => !walked.includes(l)).map(({ channel, wanted }) => (
              <Box key={channel.name} sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, alignItems: "center" }}>
                <FormControlLabel label={channel.title} control={<Checkbox size="small" checked={wanted} onChange={(_, on) => put(channel, { wanted: on })} />} />
                {wanted && <InstrumentChoice book={book} channel={channel} onChange={(instrument) => put(channel, { channel: { ...channel, instrument } })} />}
              </Box>
            ))}
          </Box>
          {!protocol.needs_load && state.draft?.load && <FormControlLabel label="with the pot in" control={<Checkbox size="small" checked={withLoad} onChange={(_, on) => setWithLoad(on)} />} />}
          {!sampled && !protocol.starts_hot && <FormControlLabel label="the empty box stood in the sun for an hour before" control={<Checkbox size="small" checked={preheated} onChange={(_, on) => setPreheated(on)} />} />}
          {!sampled && aim && (
            <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
              <NumberField label={`Goal: ${aim.title} at`} value={goalC} quantity="temperature" hint="left empty: no goal" onCommit={setGoalC} />
              <NumberField label="Within" value={goalMinutes} quantity="minutes" hint="left empty: at any time" onCommit={setGoalMinutes} />
            </Box>
          )}
        </Box>
        <Box>
          <Typography variant="h3">Before you start</Typography>
          <Box component="ol" sx={{ pl: 2.5, mt: 0.5 }}>{protocol.checklist.map((line) => <li key={line}>{line}</li>)}</Box>
          {(protocol.cautions ?? []).length > 0 && (
            <Box sx={(t) => ({ borderLeft: `6px solid ${t.ink.stop}`, pl: 1.5, my: 1 })}>{protocol.cautions!.map((line) => <Typography key={line}>{line}</Typography>)}</Box>
          )}
          <Typography variant="body2">
            {protocol.reading_minutes.length > 0 ? `Readings at ${timesWords(protocol.reading_minutes)}. ` : "Read whenever you like. "}{protocol.end_rule}
          </Typography>
          {needsPot && <Typography role="alert">This protocol needs a pot: put one in on the make stage first.</Typography>}
          {start.error && <Problem error={asProblem(start.error)} />}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Not now</Button>
        <Button variant="contained" disabled={start.isPending || chosen.length === 0 || needsPot} onClick={() => start.mutate()}>Start the clock</Button>
      </DialogActions>
    </>
  );
}

const OUTSIDE = ["air", "sun", "wind", "load", "loop"];

/** Instruments that read what the channel is about. */
export function InstrumentChoice({ book, channel, onChange }: { book: TrialBook; channel: ChannelView; onChange: (instrument: string) => void }) {
  const here = book.instruments.find((i) => i.name === channel.instrument);
  const fitting = book.instruments.filter((i) => i.quantity === (channel.quantity ?? here?.quantity ?? "temperature"));
  return (
    <Choice
      label={`Read ${channel.title} with`} value={channel.instrument ?? "probe"} hint={here?.note || undefined} onChange={onChange}
      options={fitting.map((i) => ({ value: i.name, title: `${i.title} (± ${doubtWords(i)})` }))}
    />
  );
}

const BASE: Record<string, string> = { temperature: "K", sun: "W/m²", wind: "m/s", humidity: "", mass: "kg", moisture: "", flow: "kg/s" };

export function doubtWords(instrument: TrialBook["instruments"][number]): string {
  const share = instrument.relative || instrument.quantity === "humidity" || instrument.quantity === "moisture";
  return share ? `${Math.round(instrument.doubt * 100)} %` : `${instrument.doubt} ${BASE[instrument.quantity]}`;
}

/** Whether a node is there only with the load in. */
function ofLoad(node: string): boolean {
  return ["contents", "core", "wax", "catch"].includes(node) || node.startsWith("portion-");
}

function timesWords(minutes: number[]): string {
  const weeks = minutes.every((m) => m % 10_080 === 0);
  const [list, unit] = weeks ? [minutes.map((m) => m / 10_080), "weeks"] : [minutes, "min"];
  return list.length > 8 ? `${list.slice(0, 3).join(", ")} … ${list.at(-1)} ${unit}` : `${list.join(", ")} ${unit}`;
}

/** What the protocol wants, then what else this build could be read at. */
function linesOf(protocol: Protocol, state: BuildState): Line[] {
  const spec: Spec = state.draft!.spec;
  const load = state.draft!.load;
  const wanted = protocol.channels.flatMap((w): Line[] => {
    const base = { instrument: w.instrument ?? "probe", is_control: w.is_control ?? false };
    if (w.node === "samples") return isSamples(spec) ? spec.samples.map((s) => ({ wanted: true, channel: { ...base, name: s.name, title: s.title, node: `sample-${s.name}` } })) : [];
    if (w.node === "portions") return isPortions(load) ? load.portions.map((p) => ({ wanted: true, channel: { ...base, name: `portion-${p.name}`, title: p.title, node: `portion-${p.name}` } })) : [];
    if (w.node === "board" && !isSamples(spec)) return [];
    if (OPEN_AIR.has(spec.kind ?? "box-oven") && BOXED_ONLY.has(w.node)) return [];
    return [{ wanted: !w.optional, channel: { ...base, name: w.is_control ? "control" : w.node, title: w.title, node: w.node } }];
  });
  const have = new Set(wanted.map((l) => l.channel.node));
  const more = EXTRA.filter((e) => !have.has(e.node) && (!isSamples(spec) || !BOX_ONLY.has(e.node)) && (!OPEN_AIR.has(spec.kind ?? "box-oven") || !BOXED_ONLY.has(e.node)) && (e.node !== "contents" || isPot(load)));
  return [...wanted, ...more.map((channel) => ({ wanted: false, channel }))];
}

const OPEN_AIR = new Set(["funnel", "dish"]);
const BOXED_ONLY = new Set(["inside-air", "tray", "walls", "cover-1"]);
const BOX_ONLY = new Set(["inside-air", "tray", "contents", "walls", "cover-1", "outside", "load"]);
const EXTRA: ChannelView[] = [
  { name: "inside-air", title: "air inside", node: "inside-air", instrument: "wired-probe" },
  { name: "tray", title: "tray", node: "tray", instrument: "wired-probe" },
  { name: "contents", title: "food or water in the pot", node: "contents", instrument: "probe" },
  { name: "walls", title: "inner wall", node: "walls", instrument: "wired-probe" },
  { name: "cover-1", title: "inner cover", node: "cover-1", instrument: "wired-probe" },
  { name: "control", title: "control beside the box", node: "outside", instrument: "probe", is_control: true },
  { name: "air", title: "air outside", node: "air", instrument: "probe" },
  { name: "sun", title: "sun on level ground", node: "sun", instrument: "pyranometer" },
  { name: "wind", title: "wind", node: "wind", instrument: "anemometer" },
  { name: "humidity", title: "humidity outside", node: "air", instrument: "humidity-probe" },
  { name: "load", title: "pot on the scale", node: "load", instrument: "scale" },
];

/** Plain words for a node that a file's column may go to. */
export function titleOfNode(node: string): string {
  return EXTRA.find((e) => e.node === node)?.title ?? node;
}

/** A new channel on a node, for readings from a file. */
export function channelOn(node: string): ChannelView {
  const known = EXTRA.find((e) => e.node === node);
  const instrument = known?.instrument === "probe" || known?.instrument === "wired-probe" || !known ? "logger" : known.instrument!;
  return { name: known?.name ?? node, title: known?.title ?? node, node, is_control: known?.is_control ?? false, instrument };
}
