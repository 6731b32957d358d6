import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { backupQuery, buildingQuery, chargeLinksQuery, chargeQuery, chargeSizesQuery, moneyQuery, sawQuery, todayQuery, weeksQuery } from "../../api/queries";
import { useHeavy } from "../../api/heavy";
import { dateWords, dayStart, monthDayWords, MONTHS } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { moistureWords, say, withUnit } from "../../look/units";
import { capital } from "../../look/words";
import { Asked } from "../../parts/Asked";
import { BoardProfile } from "../../parts/BoardProfile";
import { ChargeChart } from "../../parts/ChargeChart";
import { HourBars } from "../../parts/HourBars";
import { Problem, Waiting } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { NumberField } from "../../parts/NumberField";
import { Sheets } from "../../parts/Sheets";
import { Words } from "./Words";
import type { BuildState } from "./useBuild";

const RISKS = { none: "sound", watch: "watch it", high: "may check" } as const;
type Risk = keyof typeof RISKS;

/** What is asked of a charge of boards: when it is dry, vents today and week by week, how much to lay in, what a change brings, what to saw. */
export function KilnPanel({ state }: { state: BuildState }) {
  return (
    <>
      <Box className="mt-2">
        <Typography variant="h2" className="mb-0_5">The charge, from here to dry</Typography>
        <Charge state={state} />
      </Box>
      <Asked title="Vents today" door="What shutting and opening do"><Today state={state} /></Asked>
      <Asked title="Vents week by week" door="The quickest that is safe, each week"><Weeks state={state} /></Asked>
      <Asked title="How much to lay in" door="From a third of the rule's size to twice it"><Sizes state={state} /></Asked>
      <Asked title="What would save days" door="Every change over the whole charge"><Links state={state} /></Asked>
      <Asked title="Sizes to saw for" door="Green sizes for these boards"><Saw state={state} /></Asked>
      <Asked title="How it is put up and filled" door="Slopes, panes, filling, timber"><PutUp state={state} /></Asked>
      <Asked title="Back-up heat in winter" door="Extra charges against the heat"><BackUp state={state} /></Asked>
      <Sheets of="build" id={state.build!.id} only={["prices"]} />
      <Asked title="What it earns" door="Cost of a board foot, pay-back"><Earns state={state} /></Asked>
    </>
  );
}

const daysOf = (value: number | null) => (value === null ? "not by then" : value < 0.5 ? "dry already" : `${Math.round(value)} days`);

/** A moisture or a share, with a tenth where that tells. */
const mc = (value: number) => moistureWords(value).replace(".0 ", " ");

function Charge({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const [picked, setPicked] = useState<number | null>(null);
  const asked = useHeavy(chargeQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Drying it through some seasons" />;
  const times = data.times.map((t) => Date.parse(t));
  const at = Math.min(picked ?? Math.floor(times.length / 3), times.length - 1);
  const groups = data.groups.map((g) => ({ title: capital(say(g.title, units)), mean: g.mean_mc, outside: g.outside_mc, target: g.target_mc, done: g.done_at ? Date.parse(g.done_at) : null }));
  const days = data.days.map((d) => ({
    at: dayStart(d.day), sun: d.sun_kwh_m2, peak: d.peak_c, low: d.low_c,
    says: `${d.day}: ${withUnit(d.sun_kwh_m2, "exposure", units)} of sun, ${withUnit(d.low_c, "temperature", units)} to ${withUnit(d.peak_c, "temperature", units)}, brings wood to ${mc(d.emc)}, ${withUnit(d.water_kg, "mass", units)} of water out`,
  }));
  const most = Math.max(0.3, ...data.groups.flatMap((g) => g.cells_mc[at] ?? []));
  return (
    <Box>
      <Words said={data.words} />
      <ChargeChart
        label="moisture of each group, the chamber's daily peaks, and the sun of each day" times={times} groups={groups} days={days} warmth={(c) => withUnit(c, "temperature", units)} zone={site.time_zone}
        picked={at} onPick={setPicked}
      />
      <Typography variant="body2" className="mt-0_5">Through a board on {dateWords(data.times[at]!, site.time_zone)}; move along the chart for other days.</Typography>
      <Box className="flex wrap gap-2">
        {data.groups.map((g) => g.cells_mc[at] && (
          <BoardProfile key={g.node} title={`${capital(say(g.title, units))}: mean ${mc(g.mean_mc[at]!)}, shell ${mc(g.shell_mc[at]!)}, core ${mc(g.core_mc[at]!)}`} widths={data.cell_widths} cells={g.cells_mc[at]} target={g.target_mc} mean={g.mean_mc[at]!} most={most} />
        ))}
      </Box>
      <Box component="table" className="ruled" aria-label="groups by chance">
        <thead><tr><th scope="col">boards</th><th scope="col">dry after</th><th scope="col">eight seasons of ten</th><th scope="col">meter shows then</th><th scope="col">most lost in a day</th><th scope="col">wood</th><th scope="col">outside</th></tr></thead>
        <tbody>
          {data.groups.map((g) => (
            <tr key={g.node}>
              <th scope="row">{say(g.title, units)} to {mc(g.target_mc)}</th><td><b>{daysOf(g.likely_days)}</b></td><td>{g.likely_days !== null && g.likely_days < 0.5 ? "–" : `${daysOf(g.early_days)} to ${daysOf(g.late_days)}`}</td><td>{mc(g.meter_mc)}</td>
              <td>{g.loss_share === null ? "no safe rate known" : `${g.loss_share.toFixed(1)} × the safe rate`}</td><td>{RISKS[g.checks as Risk]}</td><td>{g.outside_mc_then === null ? daysOf(g.outside_days) : `${mc(g.outside_mc_then)} then`}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      {[data.pull, data.beside, data.peaks].map((said, k) => <Typography key={k} className="mt-0_5">{say(said, units)}</Typography>)}
    </Box>
  );
}

function Today({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(todayQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Shutting and opening for a fortnight" />;
  return (
    <Box>
      <Words said={data.words} />
      <Typography className="mb-0_5">{say(data.kinder, units)}</Typography>
      <Box component="table" className="ruled" aria-label="vents today">
        <thead><tr><th scope="col">vents</th><th scope="col">peak</th><th scope="col">humidity</th>{data.groups.map((g, k) => <th key={k} scope="col">{say(g, units)}: next day, fortnight</th>)}<th scope="col">of the safe rate</th><th scope="col">try</th></tr></thead>
        <tbody>
          {data.options.map((o) => (
            <tr key={say(o.title, units)}>
              <th scope="row">{say(o.title, units)}</th><td>{withUnit(o.peak_c, "temperature", units)}</td><td>{mc(o.rh)}</td>
              {o.next_day.map((loss, k) => <td key={k}>{mc(loss)}, <b>{mc(o.fortnight[k]!)}</b></td>)}
              <td>{o.worst_share === null ? "–" : `${o.worst_share.toFixed(1)} ×`}</td>
              <td>{!o.is_mine && <Button aria-label={`Try it: ${say(o.title, units)}`} onClick={() => state.save({ spec: o.spec }, say(o.title, units))}>Try it</Button>}</td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function Weeks({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(weeksQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Setting the vents week by week" />;
  return (
    <Box>
      <Words said={data.words} />
      <Box component="table" className="ruled" aria-label="vents week by week">
        <thead><tr><th scope="col">week from</th><th scope="col">vents open</th><th scope="col">boards at its end</th><th scope="col">of the safe rate</th><th scope="col">peak</th><th scope="col">why</th></tr></thead>
        <tbody>
          {data.weeks.map((w) => (
            <tr key={w.week}><th scope="row">{monthDayWords(w.first)}</th><td><b>{mc(w.open_share)}</b></td><td>{w.mean_mc.map(mc).join(", ")}</td><td>{w.loss_share === null ? "–" : `${w.loss_share.toFixed(1)} ×`}</td><td>{withUnit(w.peak_c, "temperature", units)}</td><td>{say(w.why, units)}</td></tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function Sizes({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(chargeSizesQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Filling it more and less" />;
  const most = Math.max(0.001, ...data.sizes.map((s) => s.m3_per_month ?? 0));
  const bars = data.sizes.map((s) => ({
    key: String(s.wood_m3), over: s.days === null ? "–" : `${Math.round(s.days)} d`, share: (s.m3_per_month ?? 0) / most, under: withUnit(s.wood_m3, "timber", units), chosen: s.wood_m3 === data.best_m3,
    title: `${s.m3_per_month === null ? "not dry by then" : `${withUnit(s.m3_per_month, "timber", units)} a month`}; ${RISKS[s.checks as Risk]}`,
  }));
  return (
    <Box>
      <Words said={data.words} />
      <HourBars label="wood dried in a month by the size of the charge, days over each bar" bars={bars} />
    </Box>
  );
}

function Links({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(chargeLinksQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Running every change over the whole charge" />;
  return (
    <Box>
      <Words said={data.words} />
      <Box component="table" className="ruled" aria-label="changes over the whole charge">
        <thead><tr><th scope="col">change</th><th scope="col">dry after</th><th scope="col">against now</th><th scope="col">wood</th><th scope="col">new</th></tr></thead>
        <tbody>
          {data.lines.map((l) => (
            <tr key={say(l.title, units)}><th scope="row">{say(l.title, units)}</th><td><b>{daysOf(l.days)}</b></td><td>{say(l.words, units)}</td><td>{RISKS[l.checks as Risk]}</td><td>{l.price > 0 ? withUnit(l.price, "price", units) : "free"}</td></tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function Saw({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const { data, error } = useQuery(sawQuery(state.request!));
  if (error) return <Problem error={error} />;
  if (!data) return <Waiting what="Reckoning" />;
  const mm = (value: number) => withUnit(value, "length_mm", units);
  return (
    <Box>
      <Words said={data.words} />
      <Box component="table" className="ruled" aria-label="sizes to saw for">
        <thead><tr><th scope="col">boards</th><th scope="col">planed</th><th scope="col">saw green</th><th scope="col">shrinks</th></tr></thead>
        <tbody>
          {data.lines.map((l) => (
            <tr key={say(l.title, units)}><th scope="row">{say(l.title, units)}</th><td>{mm(l.thick_mm)} by {mm(l.wide_mm)}</td><td><b>{mm(l.sawn_thick_mm)} by {mm(l.sawn_wide_mm)}</b></td><td>{mm(l.shrinks_thick_mm)} by {mm(l.shrinks_wide_mm)}</td></tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function PutUp({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const [pane, setPane] = useState<{ wide: number | null; high: number | null }>({ wide: null, high: null });
  const { data, error } = useQuery(buildingQuery(state.request!, pane.wide, pane.high));
  if (error) return <Problem error={error} />;
  if (!data) return <Waiting what="Measuring" />;
  return (
    <Box>
      {data.conflict ? <Words said={data.slope} /> : <Typography className="mb-0_5">{say(data.slope, units)}</Typography>}
      <Box className="pairs">
        <NumberField label="Panes at hand, wide" value={pane.wide} quantity="length" onCommit={(wide) => setPane((old) => ({ ...old, wide }))} onEmpty={() => setPane((old) => ({ ...old, wide: null }))} />
        <NumberField label="Panes at hand, high" value={pane.high} quantity="length" onCommit={(high) => setPane((old) => ({ ...old, high }))} onEmpty={() => setPane((old) => ({ ...old, high: null }))} />
      </Box>
      {data.panes && <Typography className="mb-0_5" aria-live="polite">{say(data.panes.words, units)}</Typography>}
      {[data.filling, data.decay].map((said, k) => <Typography key={k} className="mb-0_5">{say(said, units)}</Typography>)}
    </Box>
  );
}

function BackUp({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const [heater, setHeater] = useState({ power: 1500, price: 0.25 });
  const asked = useHeavy(backupQuery(state.request!, heater.power, heater.price));
  const { data, error } = asked;
  const days = (value: number | null) => (value === null ? "not by then" : `${Math.round(value)} d`);
  return (
    <Box>
      <Box className="pairs">
        <NumberField label="Heater gives" value={heater.power} quantity="power" onCommit={(power) => setHeater((old) => ({ ...old, power }))} />
        <NumberField label="Heat costs, a kWh" value={heater.price} quantity="price" onCommit={(price) => setHeater((old) => ({ ...old, price }))} />
      </Box>
      {error && <Problem error={error} />}
      {!data && !error && <Progress answer={asked} what="Running six winters' charges with and without it" />}
      {data && (
        <>
          <Words said={data.words} />
          <Box component="table" className="ruled" aria-label="charges with and without back-up heat">
            <thead><tr><th scope="col">goes in</th><th scope="col">dry without</th><th scope="col">with</th><th scope="col">heat</th></tr></thead>
            <tbody>{data.months.map((m) => <tr key={m.month}><th scope="row">mid-{MONTHS[m.month - 1]}</th><td>{days(m.days_without)}</td><td><b>{days(m.days_with)}</b></td><td>{withUnit(m.kwh, "energy", units)}</td></tr>)}</tbody>
          </Box>
        </>
      )}
    </Box>
  );
}

const PARTS = { kiln: "the kiln itself", work: "filling and emptying", electricity: "electricity", lost: "wood lost" } as const;

function Earns({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(moneyQuery(state.request!, state.build!.id));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Running a year of charges" />;
  return (
    <Box>
      <Words said={data.words} />
      <Box component="table" className="ruled" aria-label="cost of drying a cubic metre">
        <thead><tr><th scope="col">of a cubic metre</th><th scope="col">cost</th></tr></thead>
        <tbody>{Object.entries(data.parts).map(([name, value]) => <tr key={name}><th scope="row">{PARTS[name as keyof typeof PARTS]}</th><td>{withUnit(value, "price", units)}</td></tr>)}</tbody>
      </Box>
      <Typography className="mt-0_5">{say(data.energy, units)}</Typography>
    </Box>
  );
}
