import { Box, Button, Link as MuiLink, Typography } from "@mui/material";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { useForm, useKind } from "../../kinds";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { afterWords, capital, shortOf } from "../../look/words";
import { Asked } from "../../parts/Asked";
import { Problem } from "../../parts/Problem";
import { BillPanel } from "./BillPanel";
import { LitDrawing } from "./LitDrawing";
import { LoadResults } from "./LoadResults";
import { PartCard, useWhatCardsAsk } from "./PartCard";
import type { BuildState } from "./useBuild";

/** The drawing is the control: pick a part, change it, and the forecast moves. */
export function MakeStage({ state }: { state: BuildState }) {
  const { spec } = state.draft!;
  const kind = useKind(spec);
  const [asked] = useSearchParams();
  // What stands below the card waits for it, so that it need not move.
  const cardIsThere = useWhatCardsAsk() !== undefined;
  const [chosen, setPicked] = useState<string | null>(null);
  const picked = chosen ?? asked.get("part") ?? kind.parts[0]!.part;
  // The drawing numbers layers and the like: wall-1 is the second entry on the card of walls.
  const [, stem, number] = /^(.*?)(?:-(\d+))?$/.exec(picked)!;
  const part = [picked, stem].find((name) => kind.parts.some((p) => p.part === name)) ?? kind.parts[0]!.part;
  const fieldsHere = useForm("builds", kind.name).filter((f) => f.part === part).map((f) => f.name);
  return (
    <Box className="two-columns drawing-first">
      <Box>
        <LitDrawing state={state} picked={picked} onPick={setPicked}>
        {kind.has_pattern && (
          <Typography variant="body2" className="mt-1">
            Flat pattern at true size: <MuiLink href={`/api/builds/${state.build!.id}/pattern.svg`} download>SVG to print</MuiLink>, <MuiLink href={`/api/builds/${state.build!.id}/pattern.dxf`} download>DXF to cut</MuiLink>.
          </Typography>
        )}
        <Asked title="What it is made of" door="Pieces, weight, price and cuts"><BillPanel build={state.build!} /></Asked>
        </LitDrawing>
      </Box>
      <Box>
        <Box role="group" aria-label="parts" className="flex wrap gap-0_5 mb-1_5">
          {kind.parts.map((p) => (
            <Button key={p.part} aria-pressed={p.part === part} onClick={() => setPicked(p.part)}>{capital(p.title)}</Button>
          ))}
        </Box>
        <PartCard part={part} picked={part === stem && number ? Number(number) : null} state={state} />
        {state.problem?.besides((f) => fieldsHere.includes(f.split(".")[1] ?? "")) && <Problem error={state.problem} />}
        {state.twinProblem && state.twinProblem.message !== state.problem?.message && <Problem error={state.twinProblem} />}
        {cardIsThere && <WhatItChanges state={state} />}
      </Box>
    </Box>
  );
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
