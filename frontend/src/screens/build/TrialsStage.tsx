import { Box, Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel, Link as MuiLink, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { answered, asProblem, client, type ChannelView, type SkyState } from "../../api/client";
import { bookQuery, trialsQuery } from "../../api/queries";
import { dateTimeWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { Choice } from "../../parts/Choice";
import { Problem, Waiting } from "../../parts/Problem";
import type { BuildState } from "./useBuild";

/** What was tried so far, and the door to a new trial. */
export function TrialsStage({ state }: { state: BuildState }) {
  const { site } = useDay();
  const build = state.build!;
  const { data, error } = useQuery(trialsQuery(build.id));
  const [starting, setStarting] = useState(false);
  if (error) return <Problem error={error} />;
  if (!data) return <Waiting what="Opening the log" />;
  return (
    <Box sx={{ p: 2 }}>
      <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "center", mb: 1 }}>
        <Typography variant="h2">Trials of {build.name}</Typography>
        <Button variant="contained" onClick={() => setStarting(true)}>Start a trial</Button>
      </Box>
      {data.length === 0 && <Typography>No trial yet. A quick look takes an hour and one thermometer.</Typography>}
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {data.map((trial) => (
          <Box component="li" key={trial.id} sx={(t) => ({ display: "grid", gridTemplateColumns: "minmax(200px, 2fr) 1.3fr 1.7fr 1fr 1fr 0.9fr 0.8fr 0.7fr", gap: 1.5, py: 1.25, borderTop: `1px solid ${t.ink.rule}`, alignItems: "baseline", "@media (max-width: 900px)": { gridTemplateColumns: "1fr 1fr", rowGap: 0 } })}>
            <MuiLink component={Link} to={`/trials/${trial.id}`} color="primary" sx={{ fontWeight: 700, fontSize: 16 }}>{trial.name}</MuiLink>
            <span>{trial.protocol.title}</span>
            <span>{dateTimeWords(trial.started, site.time_zone)}</span>
            <span>{trial.reading_count} readings</span>
            <span>{trial.weather.sky ?? "clear"} sky</span>
            <span>revision {trial.build_revision}</span>
            <Box component="span" sx={{ fontWeight: 700 }}>{trial.ended === null ? "running" : ""}</Box>
            {trial.reading_count > 0 && <MuiLink component={Link} to={`/builds/${build.id}/verdict?trial=${trial.id}`} color="inherit">verdict</MuiLink>}
          </Box>
        ))}
      </Box>
      {starting && <StartTrial state={state} onClose={() => setStarting(false)} />}
    </Box>
  );
}

const NODES = [
  { value: "inside-air", title: "air inside" },
  { value: "contents", title: "food or water in the pot" },
  { value: "tray", title: "tray" },
  { value: "walls", title: "inner wall" },
  { value: "cover-1", title: "inner cover" },
  { value: "air", title: "air outside" },
  { value: "outside", title: "control beside the box" },
];

export function titleOfNode(node: string): string {
  return NODES.find((n) => n.value === node)?.title ?? node;
}

function channelFor(node: string, instrument: string): ChannelView {
  return { name: node === "outside" ? "control" : node, title: titleOfNode(node), node, is_control: node === "outside", instrument };
}

const NODE_OF: Record<string, string> = { control: "outside" };

function StartTrial({ state, onClose }: { state: BuildState; onClose: () => void }) {
  const { data: book } = useQuery(bookQuery);
  const navigate = useNavigate();
  const cache = useQueryClient();
  const [protocolName, setProtocolName] = useState("quick-look");
  const [name, setName] = useState("");
  const [sky, setSky] = useState<SkyState>("clear");
  const [instrument, setInstrument] = useState("probe");
  const [preheated, setPreheated] = useState(false);
  const [withLoad, setWithLoad] = useState(false);
  const [picked, setPicked] = useState<string[] | null>(null);
  const protocol = book?.protocols.find((p) => p.name === protocolName);
  const loaded = protocol?.needs_load || withLoad;
  const nodes = picked ?? (protocol?.channels ?? []).map((c) => NODE_OF[c] ?? c);
  const start = useMutation({
    mutationFn: () =>
      answered(
        client.POST("/api/trials", {
          body: {
            build_id: state.build!.id, name: name.trim() || protocol!.title, protocol: protocolName, sky, preheated,
            load: loaded ? state.draft!.load : null, channels: nodes.map((n) => channelFor(n, instrument)),
          },
        }),
      ),
    onSuccess: (trial) => {
      void cache.invalidateQueries({ queryKey: ["trials"] });
      void navigate(`/trials/${trial.id}`);
    },
  });
  if (!book || !protocol) return null;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Start a trial</DialogTitle>
      <DialogContent sx={{ display: "grid", gap: 1, pt: "8px !important" }}>
        <Choice label="Protocol" value={protocolName} options={book.protocols.map((p) => ({ value: p.name, title: p.title }))} hint={protocol.purpose} onChange={(v) => { setProtocolName(v); setPicked(null); }} />
        <TextField label="Name" value={name} placeholder={protocol.title} onChange={(e) => setName(e.target.value)} helperText=" " slotProps={{ inputLabel: { shrink: true } }} />
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
          <Choice label="Sky now" value={sky} options={["clear", "hazy", "broken", "grey"].map((s) => ({ value: s, title: s }))} onChange={(v) => setSky(v as SkyState)} />
          <Choice label="Thermometer" value={instrument} options={book.instruments.map((i) => ({ value: i.name, title: `${i.title} (± ${i.doubt_k} K)` }))} onChange={setInstrument} />
        </Box>
        <Box role="group" aria-label="what is read">
          <Typography variant="h3">What is read</Typography>
          {NODES.filter((n) => n.value !== "contents" || loaded).map((n) => (
            <FormControlLabel
              key={n.value} label={n.title}
              control={<Checkbox size="small" checked={nodes.includes(n.value)} onChange={(_, on) => setPicked(on ? [...nodes, n.value] : nodes.filter((x) => x !== n.value))} />}
            />
          ))}
        </Box>
        {!protocol.needs_load && state.draft?.load && <FormControlLabel label="with the pot in" control={<Checkbox size="small" checked={withLoad} onChange={(_, on) => setWithLoad(on)} />} />}
        <FormControlLabel label="the empty box stood in the sun for an hour before" control={<Checkbox size="small" checked={preheated} onChange={(_, on) => setPreheated(on)} />} />
        <details>
          <summary>Before you start</summary>
          <ol>{protocol.checklist.map((line) => <li key={line}>{line}</li>)}</ol>
        </details>
        {protocol.needs_load && !state.draft?.load && <Typography role="alert">This protocol needs a pot: put one in on the make stage first.</Typography>}
        {start.error && <Problem error={asProblem(start.error)} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Not now</Button>
        <Button variant="contained" disabled={start.isPending || nodes.length === 0 || (protocol.needs_load && !state.draft?.load)} onClick={() => start.mutate()}>Start the clock</Button>
      </DialogActions>
    </Dialog>
  );
}
