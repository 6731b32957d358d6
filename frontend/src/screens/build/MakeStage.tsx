import { Box, Button, Link as MuiLink, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { patchDayQuery, patchQuery, sectionDayQuery, sectionQuery } from "../../api/queries";
import { useAccounts, useKind } from "../../kinds";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { LAMP_RESTS_MS, useSettled } from "../../look/useSettled";
import { usePrefs } from "../../look/prefs";
import { shown, withUnit } from "../../look/units";
import { afterWords, capital, shortOf } from "../../look/words";
import { Asked } from "../../parts/Asked";
import { Boundary } from "../../parts/Boundary";
import { HundredWatts, sampleAt } from "../../parts/HundredWatts";
import { PatchDay } from "../../parts/PatchDay";
import { PatchMap } from "../../parts/PatchMap";
import { Problem, Waiting } from "../../parts/Problem";
import { drawnAt, drawnDay } from "../../parts/section/drawn";
import { SectionDrawing } from "../../parts/section/SectionDrawing";
import type { BrightPatch, Section, TwinRequest } from "../../api/client";
import { setAt } from "../../parts/setAt";
import { BillPanel } from "./BillPanel";
import { PartCard } from "./PartCard";
import { LoadResults } from "./LoadResults";
import type { BuildState } from "./useBuild";

/** An edit that rests so long is drawn through the day. */
const EDIT_RESTS_MS = 900;

/** The drawing is the control: pick a part, change it, and the forecast moves. */
export function MakeStage({ state }: { state: BuildState }) {
  const { lamp, site } = useDay();
  const { units } = usePrefs();
  const { spec, load } = state.draft!;
  const kind = useKind(spec);
  const accounts = useAccounts(spec, load);
  const [picked, setPicked] = useState<string>(kind.parts[0]!.part);
  const request = state.request!;
  const restsAt = useSettled(Math.round(lamp / 300_000) * 300_000, LAMP_RESTS_MS);
  const at = new Date(restsAt).toISOString();
  const section = useQuery(sectionQuery(request, at));
  const day = useQuery({ ...sectionDayQuery(request), enabled: useSettled(request, EDIT_RESTS_MS) === request && !section.isPlaceholderData }).data;
  const through = useMemo(() => (day ? drawnDay(day) : null), [day]);
  const moves = Math.abs(lamp - restsAt) > 150_000 || section.isPlaceholderData;
  const drawn = (moves && through && drawnAt(through, lamp)) || section.data;
  const patch = useQuery({ ...patchQuery(request, at), enabled: kind.has_patch });
  const { outcome } = state;
  const i = outcome ? sampleAt(outcome, lamp) : 0;
  const watts = outcome ? Object.fromEntries(Object.entries(outcome.accounts_w).map(([name, series]) => [name, series[i] ?? 0])) : {};
  const running = outcome ? Object.fromEntries(Object.entries(outcome.running).map(([name, series]) => [name, series[i] ?? 0])) : {};
  const celsius = outcome ? Object.fromEntries(outcome.curves.flatMap((c) => (c.temperature_c[i] == null ? [] : [[c.node, c.temperature_c[i]]]))) : {};
  const wet = outcome ? Object.fromEntries(outcome.wet.flatMap((w) => (w.water_wb[i] == null ? [] : [[w.node, { share: w.water_wb[i], says: `${shown(w.told[i]!, "share", units)} % ${w.of_dry ? "moisture" : "water"}` }]]))) : {};

  const turn = (handle: Section["handles"][number], value: number, done: boolean) => {
    const next = setAt(spec, handle.field, value);
    if (done) state.save({ spec: next }, `${handle.title} ${handle.per_deg === 1 ? `${value}°` : `${Math.round(value * 100)} %`}`);
    else state.preview({ spec: next });
  };
  const place = (spot: BrightPatch["spots"][number], across: number, up: number) =>
    state.save({ load: setAt(setAt(load, `${spot.path}.across`, across), `${spot.path}.up`, up) }, `${spot.title} moved`);
  // The drawing numbers layers and the like: wall-1 is the second entry on the card of walls.
  const [, stem, number] = /^(.*?)(?:-(\d+))?$/.exec(picked)!;
  const part = [picked, stem].find((name) => kind.parts.some((p) => p.part === name)) ?? kind.parts[0]!.part;

  const fieldsHere = kind.fields.filter((f) => f.part === part).map((f) => f.name);
  return (
    <Box className="two-columns drawing-first">
      <Box>
        <Box>
          {section.error && <Problem error={section.error} />}
          {drawn ? (
            <Boundary about={at + JSON.stringify(spec)}><SectionDrawing section={drawn} accounts={accounts} accent={kind.accent} running={running} chosen={picked} onChoose={setPicked} watts={watts} celsius={celsius} wet={wet} opening={outcome?.opening_w[i] ?? 0} stale={section.isPlaceholderData && drawn === section.data} onTurn={turn} /></Boundary>
          ) : (
            !section.error && <Waiting what="Drawing" />
          )}
        </Box>
        <Typography variant="body2" className="ink-soft mb-1">
          {kind.drawn}, sun at {clockTime(lamp, site.time_zone)}{section.data?.rays.some((ray) => ray.by_mirror) ? "; dashed rays came by way of a mirror" : ""}{"turned_minutes" in spec && spec.turned_minutes ? "; turned as it stands half-way between two turns" : ""}. {section.data?.handles.length ? "Drag a round grip, or click a part." : "Click a part."}
        </Typography>
        {outcome && <HundredWatts outcome={outcome} spec={spec} load={load} at={lamp} />}
        {patch.data && kind.has_patch && <Boundary about={at}><PatchMap patch={patch.data} stale={patch.isPlaceholderData} onPlace={place} /></Boundary>}
        {patch.data && kind.has_patch && <HourByHour request={request} shape={patch.data.length_m / patch.data.width_m} />}
        {kind.has_pattern && (
          <Typography variant="body2" className="mt-1">
            Flat pattern at true size: <MuiLink href={`/api/builds/${state.build!.id}/pattern.svg`} download>SVG to print</MuiLink>, <MuiLink href={`/api/builds/${state.build!.id}/pattern.dxf`} download>DXF to cut</MuiLink>.
          </Typography>
        )}
        <Asked title="What it is made of" door="Pieces, weight, price and cuts"><BillPanel build={state.build!} /></Asked>
      </Box>
      <Box>
        <Box role="group" aria-label="parts" className="flex wrap gap-0_5 mb-1_5">
          {kind.parts.map((p) => (
            <Button key={p.part} variant={p.part === part ? "contained" : "outlined"} aria-pressed={p.part === part} onClick={() => setPicked(p.part)}>{capital(p.title)}</Button>
          ))}
        </Box>
        <PartCard part={part} picked={part === stem && number ? Number(number) : null} state={state} />
        {state.problem?.besides((f) => fieldsHere.includes(f.split(".")[1] ?? "")) && <Problem error={state.problem} />}
        {state.twinProblem && state.twinProblem.message !== state.problem?.message && <Problem error={state.twinProblem} />}
        <WhatItChanges state={state} />
        <Button onClick={state.undo} disabled={!state.build?.can_undo} className="mt-1">Undo  (u)</Button>
      </Box>
    </Box>
  );
}

/** Asked for by a button: a day of maps costs as much as all else on the page. */
function HourByHour({ request, shape }: { request: TwinRequest; shape: number }) {
  const { lamp, site, day, setLamp } = useDay();
  const [open, setOpen] = useState(false);
  const hours = useQuery({ ...patchDayQuery(request), enabled: open });
  if (!open) return <Button className="mt-0_5" onClick={() => setOpen(true)}>The light hour by hour</Button>;
  if (hours.error) return <Problem error={hours.error} />;
  if (!hours.data) return <Waiting what="Following the light" />;
  return <Boundary about={day}><PatchDay day={hours.data} shape={shape} lamp={lamp} zone={site.time_zone} stale={hours.isPlaceholderData} onHour={setLamp} /></Boundary>;
}

/** The judged part in words. */
function titleOf(outcome: NonNullable<BuildState["outcome"]>): string {
  return outcome.curves.find((c) => c.node === outcome.judged)?.title ?? outcome.judged;
}

function WhatItChanges({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const kind = useKind(state.draft!.spec);
  const { outcome, before } = state;
  const now = outcome?.days[0];
  const then = before?.days[0];
  if (!outcome || !now) return null;
  const gain = then ? now.peak_c - then.peak_c : 0;
  const sooner = then?.minutes_to_target != null && now.minutes_to_target != null ? now.minutes_to_target - then.minutes_to_target : null;
  return (
    <Box aria-live="polite" sx={(t) => ({ border: `1px solid ${t.ink.ink}`, p: 1.5, mt: 1, opacity: state.stale ? 0.6 : 1 })}>
      <Typography variant="h3">Today with this</Typography>
      <Typography>
        {capital(titleOf(outcome))} {now.warmed
          ? <>peaks at <b>{withUnit(now.peak_c, "temperature", units, { doubt: now.peak_doubt_k || null })}</b> ({clockTime(now.peak_at, site.time_zone)})</>
          : <>only cools from the {withUnit(now.peak_c, "temperature", units)} that it goes in with</>}
        {outcome.target_c !== null && (now.target_reached_at
          ? <>; {withUnit(outcome.target_c, "temperature", units)} at <b>{clockTime(now.target_reached_at, site.time_zone)}</b>{afterWords(now.minutes_to_target)}</>
          : <>, {shortOf(outcome.target_c, now.peak_c, units)}</>)}
        .
      </Typography>
      <LoadResults outcome={outcome} />
      {outcome.stagnation_c !== null && kind.names_stagnation && <Typography>Empty, its hottest part would reach {withUnit(outcome.stagnation_c, "temperature", units)}.</Typography>}
      {then && !state.stale && (
        <Typography className="weight-650">
          Last change: {withUnit(gain, "difference", units, { signed: true })} at the peak
          {sooner !== null && Math.round(sooner) !== 0 && `, ${sooner < 0 ? "−" : "+"}${Math.abs(Math.round(sooner))} min to the target`}
        </Typography>
      )}
    </Box>
  );
}
