import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type BuildView, type Queue, type TwinRequest } from "../../api/client";
import { useHeavy } from "../../api/heavy";
import { buildsQuery, queueQuery } from "../../api/queries";
import { useLoadOf } from "../../kinds";
import { monthDayWords, MONTHS } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { moistureWords, say, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Choice } from "../../parts/Choice";
import { HourBars } from "../../parts/HourBars";
import { Progress } from "../../parts/Progress";
import { Sheets } from "../../parts/Sheets";
import { QueueChart } from "./QueueChart";

/** What waits at this site, and what of it goes into which build when. */
export default function StacksScreen() {
  const { siteId } = useDay();
  const takers = useTakers(siteId);
  const [chosen, setChosen] = useState<number | null>(null);
  const taker = takers.find((b) => b.id === chosen) ?? takers[0];
  return (
    <Box className="p-2 max-width-1060">
      <Typography variant="h1">Stacks that wait</Typography>
      {taker && takers.length > 1 && <Box className="max-width-420 mt-1"><Choice label="They wait for" value={String(taker.id)} options={takers.map((b) => ({ value: String(b.id), title: b.name }))} onChange={(id) => setChosen(Number(id))} /></Box>}
      {taker && <Asked key={taker.id} title={`What goes into ${taker.name} when`} door="Plan the year"><Plan build={taker} /></Asked>}
      {!taker && <Typography>No build here takes what waits: build a kiln, and stack boards in it first.</Typography>}
      <Sheets of="site" id={siteId} only={["waiting"]} open />
    </Box>
  );
}

/** Builds at a site whose load can be asked what goes in when. */
function useTakers(siteId: number): BuildView[] {
  const builds = useQuery(buildsQuery(siteId)).data ?? [];
  const loadOf = useLoadOf();
  return builds.filter((b) => loadOf(b.load)?.longer.includes("queue"));
}

function Plan({ build }: { build: BuildView }) {
  const { siteId, day } = useDay();
  const { units } = usePrefs();
  const request: TwinRequest = { site_id: siteId, spot: build.spot, spec: build.spec, load: build.load, day, sky: "clear", weather: null, calibration: build.calibration?.id ?? null };
  const rows = useQuery({ queryKey: ["sheets", "site", siteId], enabled: false }).data;
  const asked = useHeavy(queueQuery(request, rows));
  const found = asked.data;
  if (!found) return <Progress answer={asked} what="Looking at each stack" />;
  return (
    <Box>
      <Typography className="weight-650 mb-0_5" aria-live="polite">{say(found.words, units)}</Typography>
      <Progress answer={asked} what="Running stacks through the kiln" />
      <QueueChart queue={found} today={day} />
      <Typography variant="body2" className="ink-soft">Dashed: outside. Brown: in the kiln. Whisker: dry from the best to the worst of five seasons. Flag: wanted.</Typography>
      <Lines queue={found} />
      {[found.next_sawn, found.winter, found.air_first, found.store, ...found.sizes].map((said, k) => say(said, units) && <Typography key={k} className="mt-0_5">{say(said, units)}</Typography>)}
      {found.months.length > 0 && <Months queue={found} />}
    </Box>
  );
}

const on = (date: string | null) => (date === null ? "–" : monthDayWords(date));

function Lines({ queue }: { queue: Queue }) {
  const { units } = usePrefs();
  return (
    <Box component="table" className="ruled" aria-label="what goes in when">
      <thead><tr><th scope="col">stack</th><th scope="col">now</th><th scope="col">goes in</th><th scope="col">dry</th><th scope="col">days of kiln</th></tr></thead>
      {queue.lines.map((l) => (
        <tbody key={l.stack}>
          <tr>
            <th scope="row">{l.place === null ? "" : `${l.place}. `}{say(l.title, units)}{say(l.part, units) && `, ${say(l.part, units)}`}</th><td className="one-line">{moistureWords(l.now_mc)}</td><td>{l.place === null ? "stays" : `${on(l.goes_in)}${l.in_mc === null ? "" : ` at ${moistureWords(l.in_mc)}`}`}</td>
            <td><b>{on(l.dry_on ?? l.dry_outside)}</b></td><td>{l.kiln_days === null ? "–" : Math.round(l.kiln_days)}</td>
          </tr>
          <tr><td colSpan={5}>{say(l.words, units)}</td></tr>
        </tbody>
      ))}
    </Box>
  );
}

function Months({ queue }: { queue: Queue }) {
  const most = Math.max(1, ...queue.months.map((m) => m.days ?? 0));
  const bars = queue.months.map((m) => ({
    key: String(m.month), over: m.days === null ? "–" : `${Math.round(m.days)} d`, share: (m.days ?? most) / most, under: MONTHS[m.month - 1]!, title: `${m.charges_a_year.toFixed(1)} charges a year, the first in ${MONTHS[m.month - 1]}`,
  }));
  return (
    <Box>
      <Typography variant="h3" className="mt-1">Days of an air-dried charge by the month in which it goes in; at most {withUnit(Math.max(...queue.months.map((m) => m.charges_a_year)), "plain", {})} charges a year</Typography>
      <HourBars label="days of an air-dried charge by the month in which it goes in" bars={bars} />
    </Box>
  );
}
