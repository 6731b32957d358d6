import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { LoadKind, MealPlan, YearPlan } from "../../api/client";
import { useHeavy } from "../../api/heavy";
import { mealQuery, stockQuery, yearQuery } from "../../api/queries";
import { clockTime, minutesWords, MONTHS } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { DayField } from "../../parts/DayField";
import { Choice } from "../../parts/Choice";
import { HourBars } from "../../parts/HourBars";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { hoursWith } from "../../parts/hours";
import { useLoad } from "../../kinds";
import type { BuildState } from "./useBuild";

/** Plan a meal or a melt: latest start with its chance, how much by when, what preheating is worth, months and days a year. */
export function MealPanel({ state }: { state: BuildState }) {
  const load = useLoad(state.draft!.load);
  if (!load) return null; // taken out just now; the plans are still those of before
  return <Asked title={`Plan the ${load.planned}`} door="When to start, how much, which months"><Plans state={state} load={load} /></Asked>;
}

function Plans({ state, load }: { state: BuildState; load: LoadKind }) {
  const [wanted, setWanted] = useState(load.wanted_by);
  const meal = useHeavy(mealQuery(state.request!, wanted));
  const year = useHeavy(yearQuery(state.request!));
  return (
    <>
      <Box className="width-230 mt-1"><Choice label="Wanted by" value={wanted} options={hoursWith(wanted).slice(4)} onChange={setWanted} /></Box>
      <Progress answer={meal} what="Trying two dozen days like this one" />
      {meal.data && <Meal plan={meal.data} stale={meal.isPlaceholderData} />}
      <Progress answer={year} what="Trying every month" />
      {year.data && <Year plan={year.data} stale={year.isPlaceholderData} />}
      {load.is_stock && year.data && !year.isFetching && <Stock state={state} />}
    </>
  );
}

function Meal({ plan, stale }: { plan: MealPlan; stale: boolean }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const at = (time: string | null) => (time ? clockTime(time, site.time_zone) : "–");
  return (
    <Box sx={{ opacity: stale ? 0.6 : 1 }}>
      <Typography className="weight-650" aria-live="polite">{say(plan.words, units)}</Typography>
      <HourBars
        label="chance by the hour of starting"
        bars={plan.starts.map((s) => ({
          key: s.goes_in, over: s.chance === null ? "" : String(Math.round(s.chance * 100)), share: s.chance ?? 0, under: s.goes_in,
          title: `ready ${at(s.ready_clear)} on a clear day`, chosen: s.goes_in === plan.latest?.goes_in,
        }))}
      />
      <Typography variant="body2" className="ink-soft">Days in a hundred like this date on which it is ready in time, by the hour at which it goes in.</Typography>
      {plan.sizes.length > 0 && (
        <>
          <Typography className="mt-1">
            On a clear day, in at the hour of the plan: {plan.sizes.map((s) => `${withUnit(s.food_kg, "mass", units)} ${s.ready ? `by ${at(s.ready)}` : "not at all"}`).join("; ")}.
            {plan.biggest_kg !== null ? ` Largest in time: ${withUnit(plan.biggest_kg, "mass", units)}.` : " None of them in time."}
          </Typography>
          <Typography>
            Sun on it before the food goes in: {plan.preheats.map((p) => `${Math.round(p.preheat_minutes)} min → ${p.minutes === null ? "not reached" : minutesWords(p.minutes)}`).join(", ")} to the target.
          </Typography>
        </>
      )}
    </Box>
  );
}

function Year({ plan, stale }: { plan: YearPlan; stale: boolean }) {
  const { units } = usePrefs();
  return (
    <Box sx={{ mt: 2, opacity: stale ? 0.6 : 1 }}>
      <Typography className="weight-650">{say(plan.words, units)}</Typography>
      <Box component="ol" aria-label="months" className="grid columns-repeat-12-1fr gap-0_5 p-0 my-1 no-marks size-12 centred align-items-end">
        {plan.months.map((m) => (
          <li key={m.month}>
            <span>{m.days === null ? (m.clear_works ? "yes" : "no") : `${Math.round(m.days)} d`}</span>
            <Box aria-hidden sx={(t) => ({ height: `${3 + 44 * (m.chance ?? (m.clear_works ? 1 : 0))}px`, background: t.ink.sun, border: `1px solid ${t.ink.ink}` })} />
            <span>{MONTHS[m.month - 1]}</span>
            {m.kg_month !== null && <Box component="span" className="as-block">{withUnit(m.kg_month, "mass", units)}</Box>}
          </li>
        ))}
      </Box>
    </Box>
  );
}

function Stock({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const { day } = useDay();
  const [kilograms, setKilograms] = useState(12);
  const [until, setUntil] = useState(`${day.slice(0, 4)}-09-22`);
  const stock = useQuery({ ...stockQuery(state.request!, kilograms, until), enabled: /^\d{4}-\d\d-\d\d$/.test(until) });
  return (
    <Box>
      <Typography variant="h3">All of it by autumn?</Typography>
      <Box className="flex gap-1_5 mt-1">
        <NumberField label="Clean wax in what waits" value={kilograms} quantity="mass" onCommit={setKilograms} />
        <DayField label="Until" value={until} onCommit={setUntil} />
      </Box>
      {stock.error && <Problem error={stock.error} />}
      {stock.data && <Typography aria-live="polite" className="weight-650">{say(stock.data.words, units)}</Typography>}
    </Box>
  );
}
