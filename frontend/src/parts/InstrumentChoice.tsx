import type { ChannelView, TrialBook } from "../api/client";
import { usePrefs } from "../look/prefs";
import { READ_AS } from "../look/readAs";
import { withUnit, type Units } from "../look/units";
import { Choice } from "./Choice";

type Instrument = TrialBook["instruments"][number];

/** How far an instrument may be off. */
export function doubtWords(instrument: Instrument, units: Units): string {
  return withUnit(instrument.doubt, instrument.relative ? "share" : READ_AS[instrument.quantity].change, units);
}

/** Instruments that read what the channel is about. */
export function InstrumentChoice({ book, channel, onChange }: { book: TrialBook; channel: { title: string; instrument: string; quantity?: ChannelView["quantity"] }; onChange: (instrument: string) => void }) {
  const { units } = usePrefs();
  const here = book.instruments.find((i) => i.name === channel.instrument)!;
  const fitting = book.instruments.filter((i) => i.quantity === (channel.quantity ?? here.quantity));
  return (
    <Choice
      label={`Read ${channel.title} with`} value={channel.instrument} hint={here.note} onChange={onChange}
      options={fitting.map((i) => ({ value: i.name, title: `${i.title} (± ${doubtWords(i, units)})` }))}
    />
  );
}
