import { Box, Button, Typography } from "@mui/material";
import { useState, type Ref } from "react";
import type { EventKind, TrialBook, TrialView } from "../../api/client";
import { useDay } from "../../look/day";
import { NumberField } from "../../parts/NumberField";
import { named } from "../../look/names";

/** One tap for what happened; what its kind asks for (spot, sky, direction, sample, leads) comes as a second tap. */
interface Props {
  ref: Ref<HTMLDivElement>;
  trial: TrialView;
  book: TrialBook;
  onNote: (kind: EventKind, note: string, channel: string) => void;
}

export function EventKeys({ ref, trial, book, onNote }: Props) {
  const { site } = useDay();
  const [open, setOpen] = useState<EventKind | null>(null);
  const rows = book.events.filter((e) => trial.protocol.events.includes(e.name));
  const asked = rows.find((e) => e.name === open);
  const done = (note: string, channel = "") => {
    onNote(open!, note, channel);
    setOpen(null);
  };
  const samples = trial.channels.filter((c) => c.node.startsWith("sample-"));
  const answers: { title: string; note: string; channel?: string }[] =
    asked?.asks === "spot" ? site.spots.map((s) => ({ title: s.name, note: s.name }))
    : asked?.asks === "sky" ? book.sky_states.map((s) => ({ title: named(s), note: s }))
    : asked?.asks === "facing" ? [{ title: "to the sun", note: "" }]
    : asked?.asks === "sample" ? [...samples.map((c) => ({ title: c.title, note: "", channel: c.node })), ...(samples.length === 0 ? [{ title: "this build", note: "" }] : [])]
    : [];
  return (
    <Box ref={ref}>
      <Box role="group" aria-label="events" className="grid columns-repeat-3-1fr gap-0_75 mt-1_5">
        {rows.map((e) => (
          <Button
            key={e.name} variant={e.name === open ? "contained" : "outlined"} aria-expanded={e.asks ? e.name === open : undefined}
            onClick={() => (e.asks ? setOpen(open === e.name ? null : e.name) : onNote(e.name, "", ""))} className="min-height-52 size-16"
          >{e.title}</Button>
        ))}
      </Box>
      {asked && (
        <Box role="group" aria-label={`${asked.title}: which`} className="border-1-ink border-top-0 p-0_75 flex wrap gap-0_75">
          {answers.map((a) => <Button key={a.title} onClick={() => done(a.note, a.channel)} className="min-height-48">{a.title}</Button>)}
          {asked.asks === "facing" && <Facing onDone={done} />}
          {answers.length === 0 && asked.asks !== "facing" && <Typography>Nothing to choose from here.</Typography>}
        </Box>
      )}
    </Box>
  );
}

function Facing({ onDone }: { onDone: (note: string) => void }) {
  const [degrees, setDegrees] = useState<number | null>(null);
  const good = degrees !== null && degrees >= 0 && degrees <= 360;
  return (
    <Box className="flex gap-0_75">
      <NumberField label="or to, degrees from north" value={degrees} quantity="angle" problem={degrees === null || good ? undefined : "from 0 to 360"} onCommit={setDegrees} onEmpty={() => setDegrees(null)} />
      {/* Leaving the field hands the number over, so the key must not be shut while one is typed. */}
      <Button disabled={degrees !== null && !good} onClick={() => good && onDone(String(degrees))}>Turned</Button>
    </Box>
  );
}
