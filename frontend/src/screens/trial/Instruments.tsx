import { Box, Checkbox, FormControlLabel, TextField, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, asProblem, client, type ChannelView, type NewChannel, type TrialBook, type TrialView } from "../../api/client";
import { trialQuery } from "../../api/queries";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { NumberField } from "../../parts/NumberField";
import { doubtWords, InstrumentChoice } from "../../parts/InstrumentChoice";

/** What reads each channel, how far it may be off, and what it showed in melting ice and boiling water. */
export function Instruments({ trial, book }: { trial: TrialView; book: TrialBook }) {
  const cache = useQueryClient();
  const notices = useNotices();
  const change = useMutation({
    // One write at a time, each on what the one before it made.
    scope: { id: `channels-${trial.id}` },
    mutationFn: ({ name, next }: { name: string; next: Partial<NewChannel> }) => {
      const current = cache.getQueryData(trialQuery(trial.id).queryKey) ?? trial;
      const channel = current.channels.find((c) => c.name === name)!;
      return answered(client.PUT("/api/trials/{id}/channels/{channel}", { params: { path: { id: trial.id, channel: name }, header: { "If-Match": `"${current.channels_mark}"` } }, body: { ...channel, ...next } }));
    },
    onSuccess: (next) => {
      cache.setQueryData(trialQuery(trial.id).queryKey, next);
      void cache.invalidateQueries({ queryKey: ["series", trial.id] });
      void cache.invalidateQueries({ queryKey: ["verdict", trial.id] });
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  return (
    <Box component="details" className="mt-2 border-top-1-ink pt-1">
      <Typography component="summary" variant="h2" className="display-list-item cursor-pointer">Instruments and their doubt</Typography>
      <Typography variant="body2">Doubt: half the range that holds the truth in 19 cases of 20. Readings stay as they were read; a calibration puts them right when they are shown and judged.</Typography>
      {trial.channels.map((c) => <ChannelRow key={`${c.name}${c.instrument}`} channel={c} book={book} onChange={(next) => change.mutate({ name: c.name, next })} />)}
    </Box>
  );
}

function ChannelRow({ channel, book, onChange }: { channel: ChannelView; book: TrialBook; onChange: (next: Partial<NewChannel>) => void }) {
  const { units } = usePrefs();
  const instrument = book.instruments.find((i) => i.name === channel.instrument);
  const warm = instrument?.quantity === "temperature" && channel.instrument !== "words";
  const set = (point: "ice_c" | "boil_c", value: number) => onChange({ calibration: { ice_c: null, boil_c: null, ...channel.calibration, [point]: value } });
  const changed = instrument && channel.doubt !== null && channel.doubt !== instrument.doubt;
  return (
    <Box className="border-top-1-rule py-1">
      <Typography className="weight-700">{channel.title}{instrument && ` (± ${changed ? `${withUnit(channel.doubt!, "difference", units)}, as typed` : doubtWords(instrument, units)})`}</Typography>
      <Box className="grid columns-repeat-auto-fit-minmax-170px-1fr gap-1 mt-0_5">
        <InstrumentChoice book={book} channel={channel} onChange={(name) => onChange({ instrument: name, doubt: null })} />
        <Device channel={channel} onChange={onChange} />
        {warm && <NumberField label="Its own doubt, ±" value={channel.doubt} quantity="difference" hint="where its maker or you know better" onCommit={(doubt) => onChange({ doubt })} />}
        {warm && channel.instrument !== "infrared" && (
          <>
            <NumberField label="Showed in melting ice" value={channel.calibration?.ice_c ?? null} quantity="temperature" hint={`${withUnit(0, "temperature", units)} is true`} onCommit={(v) => set("ice_c", v)} />
            <NumberField label="Showed in boiling water" value={channel.calibration?.boil_c ?? null} quantity="temperature" hint="boiling here is worked out" onCommit={(v) => set("boil_c", v)} />
          </>
        )}
        <FormControlLabel label="others are held against it" control={<Checkbox size="small" checked={channel.is_control} onChange={(_, on) => onChange({ is_control: on })} />} />
        {channel.instrument === "infrared" && <NumberField label="Set to an emittance of" value={channel.set_to ?? book.usual_set_to} quantity="plain" onCommit={(set_to) => onChange({ set_to })} />}
      </Box>
    </Box>
  );
}

function Device({ channel, onChange }: { channel: ChannelView; onChange: (next: Partial<NewChannel>) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed.trim() !== channel.device) onChange({ device: typed.trim() });
    setTyped(null);
  };
  return (
    <TextField
      label="Device" value={typed ?? channel.device} helperText="the same name: one device reads both" onChange={(e) => setTyped(e.target.value)}
      onBlur={commit} onKeyDown={(e) => e.key === "Enter" && commit()} slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}
