import { Box, Typography } from "@mui/material";
import { useState } from "react";
import type { SeasonWon } from "../../api/client";
import { howManyQuery, nightQuery, readyByQuery, seasonQuery, timerQuery } from "../../api/queries";
import { useHeavy } from "../../api/heavy";
import { clockTime, dayWords, MONTHS } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { Instead } from "./Instead";
import { Words } from "./Words";
import type { BuildState } from "./useBuild";

/** What is asked of a loop: when to start it, the season it wins, hours of its pump, nights, and a heater instead. */
export function LoopPanel({ state, bathes }: { state: BuildState; bathes: boolean }) {
  const load = state.draft!.load;
  const pumped = load !== null && "pump" in load && load.pump !== null;
  return (
    <>
      {bathes && <Asked title="Warm by an evening" door="When the loop has to start"><ReadyBy state={state} /></Asked>}
      {bathes && <Asked title="The season" door="Days of the year that it wins"><Season state={state} /></Asked>}
      {bathes && <Asked title="How many" door="Coils for so much warmer water"><HowMany state={state} /></Asked>}
      {pumped && <Asked title="Hours of the pump" door="Month by month, beside a controller"><Timer state={state} /></Asked>}
      {bathes && <Asked title="Too warm" door="How to cool it by night"><Night state={state} /></Asked>}
      <Asked title="A heater instead" door="What it would take"><Instead state={state} heater="Heater" watts={6000} /></Asked>
    </>
  );
}

function ReadyBy({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const asked = useHeavy(readyByQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Starting it on each of eight days" />;
  const at = (time: string) => `${dayWords(time.slice(0, 10))}, ${clockTime(time, site.time_zone)}`;
  return (
    <Box>
      <Words said={data.words} />
      <Box component="table" className="ruled">
        <thead><tr><th scope="col">evening</th><th scope="col">running from today on</th><th scope="col">start at the latest</th></tr></thead>
        <tbody>
          {data.evenings.map((row) => (
            <tr key={row.evening}><th scope="row">{at(row.evening)}</th><td>{withUnit(row.warmest_c, "temperature", units)}</td><td>{row.latest ? at(row.latest) : "not warm enough"}</td></tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function Season({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(seasonQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Running three years with it and three without" />;
  return (
    <Box>
      <Words said={data.words} />
      <SeasonBars season={data} warm={withUnit(data.warm_c, "temperature", units)} />
      <Box component="table" className="ruled">
        <thead><tr><th scope="col">to heat it</th><th scope="col">days</th><th scope="col">by the year</th><th scope="col">electricity</th></tr></thead>
        <tbody>
          <tr><th scope="row">nothing</th><td>{Math.round(data.without_days)}</td><td>–</td><td>–</td></tr>
          {data.sizes.map((size) => (
            <tr key={say(size.title, units)}><th scope="row">{say(size.title, units)}</th><td><b>{Math.round(size.days)}</b></td><td>{Math.round(size.least)} to {Math.round(size.most)}</td><td>{withUnit(size.pump_kwh, "energy", units)}</td></tr>
          ))}
        </tbody>
      </Box>
      <Typography variant="body2" className="ink-soft mt-0_5">{data.years} made-up years of this place; with more to heat it, one of them.</Typography>
    </Box>
  );
}

function HowMany({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const [rise, setRise] = useState(3);
  const [weeks, setWeeks] = useState(3);
  const asked = useHeavy(howManyQuery(state.request!, rise, weeks));
  const { data, error } = asked;
  const warmer = (kelvin: number) => withUnit(kelvin, "difference", units);
  return (
    <Box>
      <Box className="flex wrap gap-1 mt-1">
        <NumberField label="Warmer by" value={rise} quantity="difference" onCommit={setRise} />
        <NumberField label="After so many weeks" value={weeks} quantity="count" onCommit={(value) => setWeeks(Math.round(value))} />
      </Box>
      {error ? <Problem error={error} /> : !data ? <Progress answer={asked} what="Running three years of those weeks" /> : (
        <>
          <Words said={data.words} />
          <Box component="table" className="ruled">
            <thead><tr><th scope="col">to heat it</th><th scope="col">warmer by</th><th scope="col">by the year</th><th scope="col">electricity</th></tr></thead>
            <tbody>
              {data.lines.map((line, k) => (
                <tr key={say(line.title, units)}><th scope="row">{say(line.title, units)}</th><td>{k === data.needed ? <b>{warmer(line.warmer_k)}</b> : warmer(line.warmer_k)}</td><td>{warmer(line.least_k)} to {warmer(line.most_k)}</td><td>{withUnit(line.pump_kwh, "energy", units)}</td></tr>
              ))}
            </tbody>
          </Box>
        </>
      )}
    </Box>
  );
}

/** Days of each month: filled by itself, hatched what the loop adds. */
function SeasonBars({ season, warm }: { season: SeasonWon; warm: string }) {
  const days = (count: number) => `${Math.round(count)}`;
  return (
    <Box role="group" aria-label={`days at ${warm} or more by the month`} className="grid columns-repeat-12-1fr gap-0_5 my-1">
      {season.months.map((m) => (
        <Box key={m.month} className="centred size-12" title={`${days(m.without)} days by itself, ${days(m.with_loop)} with the loop`}>
          <span>{days(m.with_loop)}</span>
          <Box aria-hidden sx={(t) => ({ display: "flex", flexDirection: "column-reverse", height: "64px", border: `1px solid ${t.ink.ink}`, background: t.ink.paper })}>
            <Box sx={(t) => ({ height: `${(64 * m.without) / 31}px`, background: t.ink.ink })} />
            <Box sx={(t) => ({ height: `${(64 * Math.max(m.with_loop - m.without, 0)) / 31}px`, background: `repeating-linear-gradient(45deg, ${t.ink.sun} 0 3px, ${t.ink.paper} 3px 5px)` })} />
          </Box>
          <span>{MONTHS[m.month - 1]}</span>
        </Box>
      ))}
    </Box>
  );
}

function Timer({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(timerQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Trying hours in each month" />;
  const worth = (value: number) => withUnit(value, data.quantity, units);
  return (
    <Box>
      <Words said={data.words} />
      <Box component="table" className="ruled">
        <thead><tr><th scope="col">month</th><th scope="col">best hours</th><th scope="col">bring</th><th scope="col">as set now</th><th scope="col">by two temperatures</th></tr></thead>
        <tbody>
          {data.months.map((m) => (
            <tr key={m.month}><th scope="row">{MONTHS[m.month - 1]}</th><td>{m.begins} to {m.ends}</td><td>{worth(m.best)}</td><td>{worth(m.now)}</td><td>{worth(m.switched)}</td></tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function Night({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(nightQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Trying a night" />;
  return (
    <Box>
      <Words said={data.words} />
      <Box component="table" className="ruled">
        <thead><tr><th scope="col">the night</th><th scope="col">evening</th><th scope="col">morning</th><th scope="col">sheds</th></tr></thead>
        <tbody>
          {data.lines.map((row) => (
            <tr key={say(row.title, units)}><th scope="row">{say(row.title, units)}</th><td>{withUnit(row.evening_c, "temperature", units)}</td><td>{withUnit(row.morning_c, "temperature", units)}</td><td>{withUnit(row.shed_k, "difference", units)}</td></tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
