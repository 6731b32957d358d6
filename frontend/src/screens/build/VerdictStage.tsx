import { Box, Button, Link as MuiLink, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { trialQuery, trialsQuery, verdictQuery } from "../../api/queries";
import { dateTimeWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { capital } from "../../look/words";
import { Choice } from "../../parts/Choice";
import { Problem, Waiting } from "../../parts/Problem";
import { TrialChart } from "../../parts/TrialChart";
import type { BuildState } from "./useBuild";
import { CompareTrials } from "./verdict/CompareTrials";
import { Figures } from "./verdict/Figures";
import { FitPanel } from "./verdict/FitPanel";
import { Ranking } from "./verdict/Ranking";
import { Residuals, ReadingTable } from "./verdict/Residuals";
import { Suspicions } from "./verdict/Suspicions";
import { Walls } from "./verdict/Walls";

/** A page to read: one sentence, a few figures with their doubt, readings beside the twin, what to change, how sure. */
export function VerdictStage({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const [params, setParams] = useSearchParams();
  const [wall, setWall] = useState(1);
  const { data: trials } = useQuery(trialsQuery(state.build!.id));
  const read = (trials ?? []).filter((t) => t.can_judge);
  const chosen = read.find((t) => t.id === Number(params.get("trial"))) ?? read.find((t) => t.ended !== null) ?? read[0];
  const trial = useQuery({ ...trialQuery(chosen?.id ?? 0), enabled: chosen !== undefined }).data;
  const verdict = useQuery({ ...verdictQuery(chosen?.id ?? 0, trial?.mark ?? "", wall), enabled: trial !== undefined });
  if (!trials) return <Waiting what="Opening the log" />;
  if (!chosen) return <Typography className="p-2">No readings yet: start a trial, and the verdict follows.</Typography>;
  const pick = (id: string) => setParams((old) => { const next = new URLSearchParams(old); next.set("trial", id); return next; }, { replace: true });
  const found = verdict.data;
  return (
    <Box className="p-2">
      <Box className="no-print flex gap-1 items-top wrap">
        <Box className="flex-1-1-260px max-width-420">
          <Choice label="Trial" value={String(chosen.id)} options={read.map((t) => ({ value: String(t.id), title: `${t.name}${t.ended ? "" : " (running)"}` }))} onChange={pick} />
        </Box>
        <Button onClick={() => window.print()} className="height-38">Print</Button>
        <MuiLink href={`/api/trials/${chosen.id}/verdict.html`} color="inherit" className="py-1">as one page</MuiLink>
        <MuiLink href={`/api/trials/${chosen.id}/verdict.json`} color="inherit" className="py-1">as a file</MuiLink>
        <MuiLink href={`/api/trials/${chosen.id}/case.json`} color="inherit" className="py-1">its case</MuiLink>
        <MuiLink href={`/api/trials/${chosen.id}/export.csv`} color="inherit" className="py-1">all data as CSV</MuiLink>
        <MuiLink href={`/api/trials/${chosen.id}/export.xlsx`} color="inherit" className="py-1">as XLSX</MuiLink>
        <MuiLink href={`/api/trials/${chosen.id}/export.json`} color="inherit" className="py-1">as JSON</MuiLink>
      </Box>
      {verdict.error && <Problem error={verdict.error} />}
      {!found || !trial ? !verdict.error && <Waiting what="Asking the twin" /> : (
        <Box sx={{ opacity: verdict.isPlaceholderData ? 0.6 : 1 }}>
          <Typography variant="h1" component="h2" className="mb-0_5">{capital(say(found.headline, units))}</Typography>
          <Typography variant="body2" className="ink-soft">
            {trial.name}, {dateTimeWords(trial.started, site.time_zone)}, {say(found.weather, units)}; build at revision {trial.build_revision}.
          </Typography>
          <Suspicions trial={trial} verdict={found} />
          <Figures figures={found.figures} />
          {found.ranking && <Ranking ranking={found.ranking} finishes={found.finishes} fadings={found.fadings} />}
          <TrialChart trial={trial} verdict={found} zone={site.time_zone} height={270} />
          <Residuals verdict={found} trial={trial} />
          <Box className="reading-columns">
            <Box>
              <Typography variant="h2">What was found</Typography>
              {found.sentences.map((s, k) => <Typography key={k} className="mt-0_5">{capital(say(s, units))}</Typography>)}
              {trial.remarks && <Typography className="mt-0_5 font-style-italic">Noted: {trial.remarks}</Typography>}
            </Box>
            <Box>
              <Typography variant="h2">How sure</Typography>
              <Typography className="mt-0_5">{say(found.how_sure, units)}</Typography>
            </Box>
            {found.fit && found.ranking === null && <Box><FitPanel trial={trial} first={found.fit} state={state} /></Box>}
            {found.walls.length > 0 && <Box><Walls walls={found.walls} wall={wall} onWall={setWall} /></Box>}
            <Box><CompareTrials trial={trial} others={read.filter((t) => t.id !== trial.id)} /></Box>
            <Box><ReadingTable verdict={found} /></Box>
          </Box>
        </Box>
      )}
    </Box>
  );
}
