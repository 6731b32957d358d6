import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { basketQuery, batchQuery, nightsQuery, ventQuery, weeklyQuery } from "../../api/queries";
import { useHeavy } from "../../api/heavy";
import { useForm } from "../../kinds";
import { MONTHS } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, shown, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Choice } from "../../parts/Choice";
import { DryingChart } from "../../parts/DryingChart";
import { HourBars } from "../../parts/HourBars";
import { NumberField } from "../../parts/NumberField";
import { Problem, Waiting } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { ApartPanel } from "./ApartPanel";
import { Instead } from "./Instead";
import { Words } from "./Words";
import type { BuildState } from "./useBuild";

const ELECTRIC_W = 600;

/** What is asked of a dryer: days to dry, the vent, why it is not hotter, nights, how much a week, from basket to jars. */
export function DryerPanel({ state }: { state: BuildState }) {
  return (
    <>
      <Asked title="Days to dry" door="Over the days to come, and by chance"><Batch state={state} /></Asked>
      <Asked title="How far open?" door="Temperature and air at every opening"><Vent state={state} /></Asked>
      <Asked title="Why is it not hotter?" door="Hold it against a promise or another build"><ApartPanel state={state} /></Asked>
      <Asked title="Nights" door="Leave it, stuff the vents, or take it in"><Nights state={state} /></Asked>
      <Asked title="How much a week?" door="By the month, and how large a dryer"><Weekly state={state} /></Asked>
      <Asked title="From basket to jars" door="Trays, fillings, dried weight"><Basket state={state} /></Asked>
      <Asked title="An electric dryer instead" door="What it would take"><Instead state={state} heater="Electric dryer" watts={ELECTRIC_W} /></Asked>
    </>
  );
}

const hoursOf = (value: number | null) => (value === null ? "not by then" : `${Math.round(value)} h`);

function Batch({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const asked = useHeavy(batchQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Drying it in a dozen made-up weeks" />;
  const times = data.times.map((t) => Date.parse(t));
  const trays = data.trays.map((t) => ({ title: t.title, water_wb: t.moisture_wb, done: t.done_at ? Date.parse(t.done_at) : null }));
  return (
    <Box>
      <Words said={data.words} />
      <DryingChart label="water left in each tray under a usual clear sky" times={times} trays={trays} zone={site.time_zone} />
      <Box component="table" className="ruled" aria-label="trays by chance">
        <thead><tr><th scope="col">on the tray</th><th scope="col">dry at</th><th scope="col">likely after</th><th scope="col">eight weeks of ten</th><th scope="col">dry within {data.days} days</th></tr></thead>
        <tbody>
          {data.trays.map((t) => (
            <tr key={t.title}><th scope="row">{t.title}</th><td>{withUnit(t.target_kg, "mass", units)}</td><td>{hoursOf(t.likely_h)}</td><td>{hoursOf(t.early_h)} to {hoursOf(t.late_h)}</td><td>{shown(t.chance, "share", units)} %</td></tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function Vent({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(ventQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Opening the vent step by step" />;
  const most = Math.max(...data.points.map((p) => p.dries));
  const bars = data.points.map((p) => ({
    key: String(p.open_share), over: withUnit(Math.round(p.into_trays_c), "temperature", units), share: p.dries / most, under: `${Math.round(100 * p.open_share)} %`,
    title: `${Math.round((100 * p.dries) / most)} % of the fastest, ${Math.round(p.flow_m3_h)} m³/h of air`,
  }));
  return (
    <Box>
      <Words said={data.words} />
      <HourBars label="how fast it dries by the opening of the vent, air into the trays over each bar" bars={bars} />
      <Box component="table" className="ruled" aria-label="openings">
        <thead><tr><th scope="col">open</th><th scope="col">into the trays</th><th scope="col">air</th><th scope="col">changed</th><th scope="col">dries, of the fastest</th></tr></thead>
        <tbody>
          {data.points.map((p) => (
            <tr key={p.open_share}><th scope="row">{shown(p.open_share, "share", units)} %</th><td>{withUnit(p.into_trays_c, "temperature", units)}</td><td>{Math.round(p.flow_m3_h)} m³/h</td><td>{Math.round(p.changes_h)} × an hour</td><td>{p.open_share === data.best_share ? <b>100 %</b> : `${Math.round((100 * p.dries) / most)} %`}</td></tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function Nights({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(nightsQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Spending the nights three ways" />;
  return (
    <Box>
      <Words said={data.words} />
      <Box component="table" className="ruled" aria-label="nights">
        <thead><tr><th scope="col">at night</th><th scope="col">dry after</th><th scope="col">takes back</th><th scope="col">way to mould</th></tr></thead>
        <tbody>
          {data.ways.map((w) => (
            <tr key={w.night}><th scope="row">{w.title}</th><td>{hoursOf(w.hours)}</td><td>{withUnit(w.regained_g / 1000, "mass", units)}</td><td>{shown(w.mould_share, "share", units)} %</td></tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function Weekly({ state }: { state: BuildState }) {
  const { day } = useDay();
  const { units } = usePrefs();
  const [wanted, setWanted] = useState(10);
  const [month, setMonth] = useState(Number(day.slice(5, 7)));
  const asked = useHeavy(weeklyQuery(state.request!, wanted, month));
  const { data, error } = asked;
  const most = data ? Math.max(0.01, ...data.months.map((m) => m.kg_week)) : 1;
  return (
    <Box>
      <Box className="flex wrap gap-1 mt-1">
        <NumberField label="Wanted a week" value={wanted} quantity="mass" onCommit={setWanted} />
        <Choice label="In" value={String(month)} options={MONTHS.map((title, k) => ({ value: String(k + 1), title }))} onChange={(value) => setMonth(Number(value))} />
      </Box>
      {error ? <Problem error={error} /> : !data ? <Progress answer={asked} what="Drying through the year" /> : (
        <>
          <Words said={data.words} />
          <HourBars
            label="kilograms laid in a week by the month"
            bars={data.months.map((m) => ({ key: String(m.month), over: withUnit(Math.round(m.kg_week * 10) / 10, "mass", units), share: m.kg_week / most, under: MONTHS[m.month - 1]!.slice(0, 3), title: m.days === null ? "not dry within a week" : `${m.days.toFixed(1)} days each` }))}
          />
        </>
      )}
    </Box>
  );
}

function Basket({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const options = useForm("loads", state.draft!.load?.kind).find((f) => f.name === "foods")?.fields.find((f) => f.name === "food")?.options ?? [];
  const [food, setFood] = useState("fig");
  const [litres, setLitres] = useState(10);
  const { data, error } = useQuery(basketQuery(state.request!, food, litres));
  return (
    <Box>
      <Box className="flex wrap gap-1 mt-1">
        <Choice label="Food" value={food} options={options} onChange={setFood} />
        <NumberField label="Bucket" value={litres} quantity="volume" onCommit={setLitres} />
      </Box>
      {error ? <Problem error={error} /> : !data ? <Waiting what="Reckoning" /> : <><Words said={data.words} /><Typography variant="body2" className="ink-soft">{say(data.feel, units)}; water to go {withUnit(data.water_kg, "mass", units)}.</Typography></>}
    </Box>
  );
}
