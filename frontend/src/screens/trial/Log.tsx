import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import type { TrialView } from "../../api/client";
import { bookQuery } from "../../api/queries";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { named } from "../../look/names";
import { usePrefs } from "../../look/prefs";
import { say, countWords } from "../../look/units";
import { shownValue } from "./Field";
import { useTrialChanges } from "../../parts/useTrialChanges";

/** Readings and events, the latest first; odd ones say why. */
const FLAG_WORDS: Record<string, string> = {
  impossible: "outside what can be", stuck: "what a broken lead shows", unit: "perhaps in the other unit", jump: "too quick a change", clock: "stamped by a clock that was not set", "no-value": "without a number",
};
const SHOWN = 60;

export function Log({ trial }: { trial: TrialView }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const book = useQuery(bookQuery).data;
  const changes = useTrialChanges(trial.id);
  if (!book) return null;
  const quantityOf = (name: string) => trial.channels.find((c) => c.name === name)!.quantity;
  const titleOf = (name: string) => trial.channels.find((c) => c.name === name || c.node === name)?.title ?? name;
  const rows = [
    ...trial.readings.slice(-SHOWN).map((r) => ({
      at: r.time, text: `${titleOf(r.channel)} ${shownValue(r, quantityOf(r.channel), units, book)}`,
      takeBack: () => void changes.withdraw(r), more: r.flag_text.length > 0 ? say(r.flag_text, units) : r.typed && r.unit !== book.usual_units[quantityOf(r.channel)] ? `typed as ${r.typed}` : "", odd: r.flag_code !== "",
    })),
    ...trial.events.map((e) => ({ at: e.time, text: e.channel ? `${named(e.kind)}: ${titleOf(e.channel)}` : named(e.kind), more: e.note, odd: false, takeBack: () => void changes.unnote(e.id) })),
  ].sort((a, b) => Date.parse(b.at) - Date.parse(a.at));
  const flagged = Object.entries(trial.flagged);
  return (
    <Box className="mt-2">
      <Typography variant="h2">Log</Typography>
      {flagged.length > 0 && (
        <Typography variant="body2">Flagged and kept: {flagged.map(([code, count]) => `${count} ${FLAG_WORDS[code] ?? code}`).join(", ")}.</Typography>
      )}
      <Box className="max-height-220 overflow-auto" tabIndex={0} role="region" aria-label="log of readings and events">
        <Box component="ol" className="no-marks p-0 m-0">
          {rows.map((row) => (
            <Box component="li" key={`${row.at}${row.text}`} sx={(t) => ({ display: "flex", gap: 2, py: 0.25, borderBottom: `1px solid ${t.ink.rule}`, color: row.odd ? t.ink.stop : t.ink.ink })}>
              <b>{clockTime(row.at, site.time_zone)}</b><span>{row.text}</span><Box component="span" className="flex-1">{row.more}</Box>
              <Button variant="text" onClick={row.takeBack} aria-label={`take back ${row.text} of ${clockTime(row.at, site.time_zone)}`} className="py-0 min-width-0">take back</Button>
            </Box>
          ))}
          {rows.length === 0 && <li>Nothing yet.</li>}
        </Box>
      </Box>
      {trial.reading_count > SHOWN && <Typography variant="body2">The latest {SHOWN} of {countWords(trial.reading_count)} readings; all of them are in the CSV and JSON on the verdict.</Typography>}
    </Box>
  );
}
