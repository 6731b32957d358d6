import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answered, asProblem, client, type SkyState } from "../../api/client";
import { useHeavy } from "../../api/heavy";
import { knownQuery, monthsQuery, nowQuery, weatherFilesQuery } from "../../api/queries";
import { useKind } from "../../kinds";
import { clockTime, dayWords, minutesWords, MONTHS } from "../../look/clock";
import { useDay, useLamp } from "../../look/day";
import { useNotices } from "../../look/notices";
import { useLines } from "../../look/inks";
import { usePrefs } from "../../look/prefs";
import { say, shown, withUnit } from "../../look/units";
import { capital, outcomeWords } from "../../look/words";
import { Choice } from "../../parts/Choice";
import { Curves, Legend } from "../../parts/Curves";
import { Flags } from "../../parts/Flags";
import { HundredWatts, sampleAt } from "../../parts/HundredWatts";
import { Problem, Waiting } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { kindOfFile, WEATHER_FILES } from "../../parts/weatherFiles";
import { asSent } from "../../parts/sent";
import { FourNumbers } from "./FourNumbers";
import { FlowPanel } from "./FlowPanel";
import { AheadPanel } from "./AheadPanel";
import { ChancePanel } from "./ChancePanel";
import { GreyPanel } from "./GreyPanel";
import { DryerPanel } from "./DryerPanel";
import { KettlePanel } from "./KettlePanel";
import { KilnPanel } from "./KilnPanel";
import { LoopPanel } from "./LoopPanel";
import { LoadResults } from "./LoadResults";
import { MealPanel } from "./MealPanel";
import { SeasonPanel } from "./SeasonPanel";
import { UnattendedPanel } from "./UnattendedPanel";
import { SKIES } from "./skies";
import type { BuildState } from "./useBuild";

/** What it will do on the chosen day: curves on the strip's hours, the months, the plan, the cautions. */

const TYPED = "typed";

export function ForecastStage({ state }: { state: BuildState }) {
  const { domain, site, setLamp } = useDay();
  const { lamp } = useLamp();
  const { units } = usePrefs();
  const kind = useKind(state.draft!.spec);
  const linesOf = useLines(kind.accent);
  const [all, setAll] = useState(false);
  const [table, setTable] = useState(false);
  const { outcome, twinProblem } = state;
  if (twinProblem && !outcome) return <><Weather state={state} /><Problem error={twinProblem} /></>;
  if (!outcome || !domain) return <Waiting what="Asking the twin" />;
  const times = outcome.times.map((t) => Date.parse(t));
  const curves = outcome.curves.filter((c) => all || c.look.usual);
  const lines = linesOf({ curves, air_c: outcome.air_c }, times);
  const today = outcome.days[0];
  const headline = outcomeWords(outcome, units, site.time_zone);
  const held = !outcome.said && today?.target_reached_at ? `; held ${minutesWords(today.held_minutes)}` : "";
  const i = sampleAt(outcome, lamp);
  return (
    <Box>
      {twinProblem && <Problem error={twinProblem} />}
      <Box className="forecast-top">
        <Typography className="answer" aria-live="polite">
          {headline && `${capital(headline)}${held}${headline.endsWith(".") ? "" : "."}`}
          {outcome.stagnation_c !== null && kind.names_stagnation && ` Empty, its hottest part gets to ${withUnit(outcome.stagnation_c, "temperature", units)}.`}
        </Typography>
        <Weather state={state} />
        <Box className="forecast-curves">
          <Curves
            label="temperatures through the day" domain={domain} zone={site.time_zone} lines={lines} lamp={lamp} onPick={setLamp} stale={state.stale}
            target={outcome.target_c != null ? { value: outcome.target_c, text: `target ${withUnit(outcome.target_c, "temperature", units)}` } : null}
            height={250}
          />
          <Box className="flex between wrap pr-2">
            <Legend lines={lines} />
            <Box>
              <Button variant="text" aria-pressed={all} onClick={() => setAll(!all)}>{all ? "fewer parts" : "every part"}</Button>
              <Button variant="text" aria-pressed={table} onClick={() => setTable(!table)}>{table ? "hide the numbers" : "as numbers"}</Button>
            </Box>
          </Box>
        </Box>
      </Box>
      {table && <Numbers outcome={outcome} />}
      <Box className="two-columns">
        <Box>
          <Typography variant="h2" className="mb-0_5">
            At {clockTime(lamp, site.time_zone)}: {curves.map((c) => (c.temperature_c[i] == null ? null : `${c.title} ${withUnit(c.temperature_c[i]!, "temperature", units)}`)).filter(Boolean).join(", ")}
          </Typography>
          <HundredWatts outcome={outcome} spec={state.draft!.spec} load={state.draft!.load} at={lamp} />
          <LoadResults outcome={outcome} />
          <Months state={state} />
        </Box>
        <Box>
          <Typography variant="h2">Plan of the day</Typography>
          <Box component="ol" className="no-marks pl-0 mt-0_5">
            {state.plan.map((step) => (
              <Box component="li" key={`${step.time}${say(step.text, units)}`} className="flex gap-1_5">
                <b>{clockTime(step.time, site.time_zone)}</b>
                <span>{say(step.text, units)}</span>
              </Box>
            ))}
            {state.plan.length === 0 && <li>{kind.empty}</li>}
          </Box>
          <Typography variant="h2" className="mb-0_5 mt-2">Mind</Typography>
          <Flags flags={outcome.flags} />
        </Box>
      </Box>
      <Box className="doors">
        {outcome.results.flow && <FlowPanel state={state} />}
        {outcome.target_c !== null && <MealPanel state={state} />}
        <AheadPanel state={state} />
        {outcome.results.water && <GreyPanel state={state} />}
        {state.draft!.load && <UnattendedPanel state={state} />}
        {state.draft!.load && <ChancePanel state={state} />}
        {!kind.side_by_side && <SeasonPanel state={state} />}
        {outcome.results.loop && <LoopPanel state={state} bathes={outcome.results.pool !== null} />}
        {outcome.results.drying && <DryerPanel state={state} />}
        {outcome.results.lumber && <KilnPanel state={state} />}
        {outcome.results.kettle && <KettlePanel state={state} />}
      </Box>
      <Box className="px-2 pb-2">
        <Typography variant="body2" className="ink-soft">
          {state.build?.calibration && <Learnt state={state} />}
          The weather of this run: {say(outcome.weather, units)}.
        </Typography>
        <Box component="details"><Typography component="summary" variant="body2">For the expert</Typography><Typography variant="body2" className="ink-soft">The energy of this run closes to {(outcome.energy_closure * 100).toExponential(0)} % of the sun taken up, at steps of {outcome.step_s} s.{outcome.water_closure !== null && ` Its water closes to ${(outcome.water_closure * 100).toExponential(0)} %.`}</Typography></Box>
      </Box>
    </Box>
  );
}

/** Which trial the twin learnt from, and how to take that back. */
function Learnt({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const learnt = state.build!.calibration!;
  return (
    <>
      The twin runs as “{learnt.trial_name}” taught it{learnt.older ? ` (at revision ${learnt.build_revision}; the build was changed since)` : ""}: {say(learnt.words, units)}.{" "}
    </>
  );
}

function Weather({ state }: { state: BuildState }) {
  const { siteId, day } = useDay();
  const { units } = usePrefs();
  const notices = useNotices();
  const cache = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const files = useQuery(weatherFilesQuery(siteId)).data ?? [];
  const add = useMutation({
    mutationFn: async (file: File) =>
      answered(
        client.POST("/api/sites/{id}/weather-files", {
          params: { path: { id: siteId } },
          body: { ...(await asSent(file)), kind: kindOfFile(file.name) },
        }),
      ),
    onSuccess: (made) => {
      void cache.invalidateQueries({ queryKey: ["weather", siteId] });
      state.setWeatherId(made.id);
      made.notes.forEach((note) => notices.warn(say(note, units)));
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const service = useQuery(nowQuery).data?.weather_service ?? false;
  const ask = useMutation({
    mutationFn: () => answered(client.POST("/api/sites/{id}/weather-service", { params: { path: { id: siteId } }, body: { start: day, days: 7 } })),
    onSuccess: (made) => {
      void cache.invalidateQueries({ queryKey: ["weather", siteId] });
      state.setWeatherId(made.id);
      notices.say(`Seven days asked for and kept as “${made.name}”.`);
      made.notes.forEach((note) => notices.warn(say(note, units)));
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const known = useQuery(knownQuery(siteId, day)).data;
  const [open, setOpen] = useState(false);
  const value = state.weatherId !== null ? `file-${state.weatherId}` : (state.sky ?? (known?.typed ? TYPED : "clear"));
  const options = [...(known?.typed ? [{ value: TYPED, title: `as typed for ${dayWords(day)}` }] : []), ...SKIES.map((s) => ({ value: s.value as string, title: `usual day, ${s.title}` })), ...files.map((f) => ({ value: `file-${f.id}`, title: f.name }))];
  return (
    <Box className="forecast-weather flex wrap gap-1 items-top">
      <Box className="width-230">
        <Choice
          label="Weather" value={value} options={options}
          onChange={(next) => {
            if (next.startsWith("file-")) state.setWeatherId(Number(next.slice(5)));
            else {
              state.setWeatherId(null);
              state.setSky(next === TYPED ? null : (next as SkyState));
            }
          }}
        />
      </Box>
      <Button aria-expanded={open} onClick={() => setOpen(!open)} className="mt-0_5">{known?.typed ? "The day in four numbers" : "Type this day’s weather"}</Button>
      <Button onClick={() => input.current?.click()} disabled={add.isPending} className="mt-0_5">Weather file …</Button>
      {service && <Button onClick={() => ask.mutate()} disabled={ask.isPending} className="mt-0_5">Ask the weather service</Button>}
      <input ref={input} type="file" hidden accept={WEATHER_FILES} aria-label="weather file" onChange={(e) => { const file = e.target.files?.[0]; if (file) add.mutate(file); e.target.value = ""; }} />
      {open && known && <FourNumbers known={known} day={day} onTyped={() => { state.setWeatherId(null); state.setSky(null); }} />}
    </Box>
  );
}

function Months({ state }: { state: BuildState }) {
  const { day, setDay } = useDay();
  const { units } = usePrefs();
  const asked = useHeavy(monthsQuery(state.request!), state.weatherId === null);
  const { data, isPlaceholderData } = asked;
  if (state.weatherId !== null) return null;
  if (!data) return <Progress answer={asked} what="Trying every month" />;
  const here = Number(day.slice(5, 7));
  const highest = Math.max(...data.months.map((m) => m.peak_c), 1);
  return (
    <Box sx={{ mt: 2, opacity: isPlaceholderData ? 0.6 : 1 }}>
      <Typography variant="h2">By month, mid-month, {SKIES.find((s) => s.value === (state.sky ?? "clear"))?.title}</Typography>
      <Box role="group" aria-label="month" className="grid columns-repeat-12-1fr gap-0_5 mt-0_5">
        {data.months.map((m) => (
          <Button
            key={m.month} variant={m.month === here ? "contained" : "outlined"} aria-pressed={m.month === here} onClick={() => setDay(m.day)}
            title={m.enough === false ? "not enough" : ""}
            className="printed min-width-0 p-0_25 flex column justify-content-flex-end height-86 line-height-1_2"
          >
            <Box aria-hidden sx={(t) => ({ width: "60%", height: `${(36 * m.peak_c) / highest}px`, background: m.enough === false ? "transparent" : t.ink.sun, border: `1px solid ${m.month === here ? t.ink.paper : t.ink.ink}` })} />
            <span>{shown(m.peak_c, "temperature", units)}° </span>
            <span>{MONTHS[m.month - 1]}</span>
          </Button>
        ))}
      </Box>
      <Progress answer={asked} what="Trying every month" />
      {data.months.some((m) => m.enough === false) && <Typography variant="body2">Hollow bars: the target is not reached or not held.</Typography>}
    </Box>
  );
}

function Numbers({ outcome }: { outcome: NonNullable<BuildState["outcome"]> }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const curves = outcome.curves.filter((c) => c.look.usual);
  const rows = outcome.times.map((t, i) => ({ t, i })).filter(({ t }) => clockTime(t, site.time_zone).endsWith(":00"));
  return (
    <Box className="max-height-260 overflow-auto mx-2" tabIndex={0} role="region" aria-label="temperatures by the hour">
      <Box component="table" sx={(t) => ({ borderCollapse: "collapse", "& td, & th": { border: `1px solid ${t.ink.rule}`, px: 1, textAlign: "end" } })}>
        <thead>
          <tr><th scope="col">time</th>{curves.map((c) => <th scope="col" key={c.node}>{c.title}</th>)}<th scope="col">air outside</th><th scope="col">sun</th></tr>
        </thead>
        <tbody>
          {rows.map(({ t, i }) => (
            <tr key={t}>
              <th scope="row">{clockTime(t, site.time_zone)}</th>
              {curves.map((c) => <td key={c.node}>{c.temperature_c[i] == null ? "–" : withUnit(c.temperature_c[i]!, "temperature", units)}</td>)}
              <td>{withUnit(outcome.air_c[i] ?? 0, "temperature", units)}</td>
              <td>{withUnit(outcome.level_sun_w_m2[i] ?? 0, "irradiance", units)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
