import { Box, Button, Link as MuiLink, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { patchQuery, sectionQuery } from "../../api/queries";
import { clockTime, minutesWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { kelvins, withUnit } from "../../look/units";
import { HundredWatts, sampleAt } from "../../parts/HundredWatts";
import { PatchMap } from "../../parts/PatchMap";
import { Problem, Waiting } from "../../parts/Problem";
import { SectionDrawing } from "../../parts/SectionDrawing";
import { isBoxed, isSamples, isPortions, isPot, isWax, type Spec } from "../../api/client";
import { PartOfSamples, SAMPLE_PARTS } from "./SampleCards";
import { PartCard, partsOf } from "./PartCard";
import { LoadResults } from "./LoadResults";
import type { BuildState } from "./useBuild";

/** The drawing is the control: pick a part, change it, and the forecast moves. */
export function MakeStage({ state }: { state: BuildState }) {
  const { lamp, site } = useDay();
  const { spec, load } = state.draft!;
  const sampled = isSamples(spec);
  const boxed = isBoxed(spec);
  const parts = sampled ? SAMPLE_PARTS : partsOf(spec);
  const [part, setPart] = useState<string>(parts[0]!.part);
  const request = state.request!;
  const at = new Date(Math.round(lamp / 300_000) * 300_000).toISOString();
  const section = useQuery(sectionQuery(request, at));
  const patch = useQuery({ ...patchQuery(request, at), enabled: boxed });
  const { outcome } = state;
  const i = outcome ? sampleAt(outcome, lamp) : 0;
  const watts = outcome ? Object.fromEntries(Object.entries(outcome.accounts_w).map(([name, series]) => [name, series[i] ?? 0])) : {};

  const turn = (field: string, value: number, done: boolean) => {
    const next = (field === "mirror.angle_deg" && isBoxed(spec) ? { ...spec, mirror: spec.mirror && { ...spec.mirror, angle_deg: value } } : { ...spec, [field]: value }) as Spec;
    if (done) state.save({ spec: next }, `${{ tilt_deg: "tilt", flare_deg: "flare" }[field] ?? "mirror angle"} ${value}°`);
    else state.preview({ spec: next });
  };
  const place = (node: string, across: number, up: number) => {
    if (!isPortions(load)) return;
    const moved = load.portions.find((p) => `portion-${p.name}` === node);
    state.save({ load: { ...load, portions: load.portions.map((p) => (p === moved ? { ...p, across, up } : p)) } }, `${moved?.title ?? "portion"} moved`);
  };
  const known = parts.some((p) => p.part === part) || part.startsWith("wall") || part.startsWith("sample-") ? part : parts[0]!.part;

  return (
    <Box
      sx={{
        display: "grid", gridTemplateColumns: "minmax(0, 3fr) minmax(280px, 2fr)", gap: 2, p: 2,
        "@media (max-width: 760px)": { gridTemplateColumns: "minmax(0, 1fr)" },
      }}
    >
      <Box>
        <Box sx={{ height: "min(52vh, 460px)", minHeight: 300 }}>
          {section.error && <Problem error={section.error} />}
          {section.data ? (
            <SectionDrawing section={section.data} chosen={part} onChoose={setPart} watts={watts} opening={outcome?.opening_w[i] ?? 0} stale={section.isPlaceholderData} onTurn={turn} />
          ) : (
            !section.error && <Waiting what="Drawing" />
          )}
        </Box>
        <Typography variant="body2" sx={(t) => ({ color: t.ink.soft, mb: 1 })}>
          {sampled ? "Cut along the way it faces, and beside it the board square on" : "Cut along the way it faces"}, sun at {clockTime(lamp, site.time_zone)}{sampled ? "" : "; dashed rays came by way of a mirror"}{"turned_minutes" in spec && spec.turned_minutes ? "; turned as it stands half-way between two turns" : ""}. Drag a round grip, or click a part.
        </Typography>
        {outcome && <HundredWatts outcome={outcome} at={lamp} />}
        {patch.data && boxed && (
          <PatchMap patch={patch.data} width={spec.width_m ?? 0.45} length={spec.length_m ?? 0.45} pot={isPot(load) ? (load.pot_diameter_m ?? null) : null} stale={patch.isPlaceholderData} onPlace={isPortions(load) ? place : undefined} />
        )}
        {!sampled && (
          <Typography variant="body2" sx={{ mt: 1 }}>
            Flat pattern at true size: <MuiLink href={`/api/builds/${state.build!.id}/pattern.svg`} download>SVG to print</MuiLink>, <MuiLink href={`/api/builds/${state.build!.id}/pattern.dxf`} download>DXF to cut</MuiLink>.
          </Typography>
        )}
      </Box>
      <Box>
        <Box role="group" aria-label="parts" sx={{ display: "flex", flexWrap: "wrap", gap: 0.5, mb: 1.5 }}>
          {parts.map((p) => {
            const here = known === p.part || (p.part === "wall" && known.startsWith("wall")) || (p.part === "samples" && known.startsWith("sample-"));
            return (
              <Button key={p.part} variant={here ? "contained" : "outlined"} aria-pressed={here} onClick={() => setPart(p.part)}>{p.title}</Button>
            );
          })}
        </Box>
        {sampled ? <PartOfSamples part={known} state={state} onChoose={setPart} /> : <PartCard part={known.startsWith("wall") ? "wall" : known} state={state} />}
        {state.problem && <Problem error={state.problem} />}
        {state.twinProblem && <Problem error={state.twinProblem} />}
        <WhatItChanges state={state} />
        <Button onClick={state.undo} disabled={!state.build?.can_undo} sx={{ mt: 1 }}>Undo  (u)</Button>
      </Box>
    </Box>
  );
}

/** The judged part in words. */
function titleOf(outcome: NonNullable<BuildState["outcome"]>): string {
  return outcome.curves.find((c) => c.node === outcome.judged)?.title ?? outcome.judged;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

function WhatItChanges({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { units } = usePrefs();
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
        {isPot(state.draft!.load) ? "Food" : capital(titleOf(outcome))} peaks at <b>{withUnit(now.peak_c, "temperature", units)}</b> ({clockTime(now.peak_at, site.time_zone)})
        {outcome.target_c != null && (now.target_reached_at
          ? <>; {withUnit(outcome.target_c, "temperature", units)} at <b>{clockTime(now.target_reached_at, site.time_zone)}</b>, {minutesWords(now.minutes_to_target ?? 0)} after it goes in</>
          : <>; it does not reach {withUnit(outcome.target_c, "temperature", units)}</>)}
        .
      </Typography>
      <LoadResults outcome={outcome} />
      {outcome.stagnation_c != null && isBoxed(state.draft!.spec) && !isWax(state.draft!.load) && <Typography>Empty, the tray would reach {withUnit(outcome.stagnation_c, "temperature", units)}.</Typography>}
      {then && (
        <Typography sx={{ fontWeight: 650 }}>
          Last change: {gain >= 0 ? "+" : "−"}{kelvins(Math.abs(gain), units)} at the peak
          {sooner !== null && `, ${sooner <= 0 ? "−" : "+"}${Math.abs(Math.round(sooner))} min to the target`}
        </Typography>
      )}
    </Box>
  );
}
