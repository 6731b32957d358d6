import { Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useState, type ReactNode } from "react";
import type { BrightPatch, Outcome, Section, TwinRequest } from "../../api/client";
import { patchDayQuery, patchQuery, sectionDayQuery, sectionQuery } from "../../api/queries";
import { useAccounts, useKind } from "../../kinds";
import { clockTime } from "../../look/clock";
import { useDay, useLamp } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { shown, type Units } from "../../look/units";
import { LAMP_RESTS_MS, useSettled } from "../../look/useSettled";
import { Boundary } from "../../parts/Boundary";
import { HundredWatts, sampleAt } from "../../parts/HundredWatts";
import { Later, useLater } from "../../parts/Later";
import { PatchDay } from "../../parts/PatchDay";
import { PatchMap } from "../../parts/PatchMap";
import { Problem, Waiting } from "../../parts/Problem";
import { drawnAt, drawnDay } from "../../parts/section/drawn";
import { SectionDrawing } from "../../parts/section/SectionDrawing";
import { setAt } from "../../parts/setAt";
import type { BuildState, Draft } from "./useBuild";

/** An edit that rests so long is drawn through the day. */
const EDIT_RESTS_MS = 900;
const STEP_MS = 300_000;

/** All on the page that the lamp lights: only this is drawn anew while it moves. */
export function LitDrawing({ state, picked, onPick, children }: { state: BuildState; picked: string; onPick: (part: string) => void; /** What stands below, once that has its place. */ children: ReactNode }) {
  const { site } = useDay();
  const { lamp } = useLamp();
  const { units } = usePrefs();
  const { spec, load } = state.draft!;
  const kind = useKind(spec);
  const accounts = useAccounts(spec, load);
  const request = state.request!;
  const restsAt = useSettled(Math.round(lamp / STEP_MS) * STEP_MS, LAMP_RESTS_MS);
  const at = new Date(restsAt).toISOString();
  const section = useQuery(sectionQuery(request, at));
  const day = useQuery({ ...sectionDayQuery(request), enabled: useSettled(request, EDIT_RESTS_MS) === request && !section.isPlaceholderData }).data;
  const first = useLater(section.data);
  const through = useMemo(() => (day ? drawnDay(day) : null), [day]);
  const moves = Math.abs(lamp - restsAt) > STEP_MS / 2 || section.isPlaceholderData;
  const drawn = (moves && through && drawnAt(through, lamp)) || first;
  const patch = useQuery({ ...patchQuery(request, at), enabled: kind.has_patch });
  const { outcome, save, preview } = state;
  const i = outcome ? sampleAt(outcome, lamp) : 0;
  const told = useMemo(() => toldAt(outcome, i, units), [outcome, i, units]);
  const turn = useCallback(
    (handle: Section["handles"][number], value: number, done: boolean) => {
      const next = (draft: Draft) => ({ spec: setAt(draft.spec, handle.field, value) });
      if (done) save(next, `${handle.title} ${handle.per_deg === 1 ? `${value}°` : `${Math.round(value * 100)} %`}`);
      else preview(next);
    },
    [save, preview],
  );
  // What comes late moves what stands below it: nothing does before the drawing, its ledger and its patch have come, or will not.
  const settled = (drawn ?? section.error) && (outcome ?? state.twinProblem) && (!kind.has_patch || (patch.data ?? patch.error));
  const place = (spot: BrightPatch["spots"][number], across: number, up: number) =>
    save((draft) => ({ load: setAt(setAt(draft.load, `${spot.path}.across`, across), `${spot.path}.up`, up) }), `${spot.title} moved`);
  return (
    <>
      {section.error && <Problem error={section.error} />}
      {drawn ? (
        <Boundary about={at + JSON.stringify(spec)}>
          <SectionDrawing section={drawn} accounts={accounts} accent={kind.accent} chosen={picked} onChoose={onPick} {...told} moves={moves} stale={section.isPlaceholderData && drawn === first} onTurn={turn} />
        </Boundary>
      ) : (
        !section.error && <div className="height-400"><Waiting what="Drawing" /></div>
      )}
      {settled && <Later>
      <Typography variant="body2" className="ink-soft mb-1">
        {kind.drawn}, sun at {clockTime(lamp, site.time_zone)}{section.data?.rays.some((ray) => ray.by_mirror) ? "; dashed rays came by way of a mirror" : ""}{"turned_minutes" in spec && spec.turned_minutes ? "; turned as it stands half-way between two turns" : ""}. {section.data?.handles.length ? "Drag a round grip, or click a part." : "Click a part."}
      </Typography>
      {outcome && <HundredWatts outcome={outcome} spec={spec} load={load} at={lamp} />}
      {patch.data && kind.has_patch && <Boundary about={at}><PatchMap patch={patch.data} stale={patch.isPlaceholderData} onPlace={place} /></Boundary>}
      {patch.data && kind.has_patch && <HourByHour request={request} shape={patch.data.length_m / patch.data.width_m} />}
      {children}
      </Later>}
    </>
  );
}

/** What the drawing tells of a sample of the outcome: watts by account, warmth and water by node, what runs. */
function toldAt(outcome: Outcome | undefined, i: number, units: Units) {
  const at = (series: Record<string, number[]>) => Object.fromEntries(Object.entries(series).map(([name, values]) => [name, values[i] ?? 0]));
  if (!outcome) return { watts: {}, running: {}, celsius: {}, wet: {}, opening: 0 };
  return {
    watts: at(outcome.accounts_w),
    running: at(outcome.running),
    celsius: Object.fromEntries(outcome.curves.flatMap((c) => (c.temperature_c[i] == null ? [] : [[c.node, c.temperature_c[i]]]))),
    wet: Object.fromEntries(outcome.wet.flatMap((w) => (w.water_wb[i] == null ? [] : [[w.node, { share: w.water_wb[i], says: `${shown(w.told[i]!, "share", units)} % ${w.of_dry ? "moisture" : "water"}` }]]))),
    opening: outcome.opening_w[i] ?? 0,
  };
}

/** Asked for by a button: a day of maps costs as much as all else on the page. */
function HourByHour({ request, shape }: { request: TwinRequest; shape: number }) {
  const { site, day, setLamp } = useDay();
  const { lamp } = useLamp();
  const [open, setOpen] = useState(false);
  const hours = useQuery({ ...patchDayQuery(request), enabled: open });
  if (!open) return <Button className="mt-0_5" onClick={() => setOpen(true)}>The light hour by hour</Button>;
  if (hours.error) return <Problem error={hours.error} />;
  if (!hours.data) return <Waiting what="Following the light" />;
  return <Boundary about={day}><PatchDay day={hours.data} shape={shape} lamp={lamp} zone={site.time_zone} stale={hours.isPlaceholderData} onHour={setLamp} /></Boundary>;
}
