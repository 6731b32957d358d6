import { Box, Typography } from "@mui/material";
import { useMemo, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Key } from "../../look/keys";
import { Problem, Waiting } from "../../parts/Problem";
import { useKeys } from "../../parts/useKeys";
import { AimStage } from "./AimStage";
import { ForecastStage } from "./ForecastStage";
import { MakeStage } from "./MakeStage";
import { NextStage } from "./NextStage";
import { Path } from "./Path";
import { TrialsStage } from "./TrialsStage";
import { useBuild, type BuildState, type ChosenSky } from "./useBuild";
import { VerdictStage } from "./VerdictStage";
import { named } from "../../look/names";

/** One build: its path of stages, the open stage below. */
const STAGES = ["aim", "make", "forecast", "trials", "verdict", "next"] as const;

export default function BuildScreen() {
  const { buildId, stage } = useParams();
  const navigate = useNavigate();
  const sky = useState<ChosenSky[0]>(null); // the day's, whichever build is looked at
  useKeys(
    useMemo(
      () => Object.fromEntries(STAGES.map((name, i) => [String(i + 1) as Key, () => void navigate(`/builds/${buildId}/${name}${location.search}`)])),
      [navigate, buildId],
    ),
  );
  // Each build has its own: what was answered for one is never shown, not even pale, under another's name.
  return <OneBuild key={buildId} id={Number(buildId)} stage={stage} sky={sky} />;
}

function OneBuild({ id, stage, sky }: { id: number; stage: string | undefined; sky: ChosenSky }) {
  const state = useBuild(id, sky);
  if (state.error) return <Problem error={state.error} />;
  if (!state.build || !state.draft) return <Waiting what="Opening the build" />;
  return <Stages state={state} stage={stage} />;
}

function Stages({ state, stage }: { state: BuildState; stage: string | undefined }) {
  const open = STAGES.find((name) => name === stage) ?? "forecast";
  return (
    <Box className="flex column min-height-100pc">
      <Typography variant="h1" className="print-title position-absolute width-1px height-1px one-line overflow-hidden clip-path-inset-50pc">
        {state.build!.name}: {named(open)}
      </Typography>
      <Path state={state} open={open} />
      {state.conflict && state.conflictBar}
      <Box className="flex-1 min-height-0">
        {open === "aim" && <AimStage state={state} />}
        {open === "make" && <MakeStage state={state} />}
        {open === "forecast" && <ForecastStage state={state} />}
        {open === "trials" && <TrialsStage state={state} />}
        {open === "verdict" && <VerdictStage state={state} />}
        {open === "next" && <NextStage state={state} />}
      </Box>
    </Box>
  );
}
