import { Box, Button, Link as MuiLink, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { trialsQuery } from "../../api/queries";
import { dateTimeWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { Problem, Waiting } from "../../parts/Problem";
import { ClassDialog } from "./ClassDialog";
import { StartTrial } from "./StartTrial";
import type { BuildState } from "./useBuild";
import { named } from "../../look/names";

/** What was tried so far, and the door to a new trial. */
export function TrialsStage({ state }: { state: BuildState }) {
  const { site } = useDay();
  const build = state.build!;
  const { data, error } = useQuery(trialsQuery(build.id));
  const [starting, setStarting] = useState(false);
  const [ofClass, setOfClass] = useState(false);
  if (error) return <Problem error={error} />;
  if (!data) return <Waiting what="Opening the log" />;
  return (
    <Box className="p-2">
      <Box className="flex between items-center mb-1">
        <Typography variant="h2">Trials of {build.name}</Typography>
        <Box className="flex gap-1">
          <Button onClick={() => setOfClass(true)}>A class with many boxes</Button>
          <Button variant="contained" onClick={() => setStarting(true)}>Start a trial</Button>
        </Box>
      </Box>
      {data.length === 0 && <Typography>No trial yet. A quick look takes an hour and one thermometer.</Typography>}
      <Box component="ul" className="no-marks p-0 m-0">
        {data.map((trial) => (
          <Box component="li" key={trial.id} className="trial-row border-top-1-rule">
            <MuiLink component={Link} to={`/trials/${trial.id}`} className="weight-700 size-16">{trial.name}</MuiLink>
            <span>{trial.protocol.title}</span>
            <span>{dateTimeWords(trial.started, site.time_zone)}</span>
            <span>{trial.reading_count} readings</span>
            <span>{named(trial.weather.sky)} sky</span>
            <span>revision {trial.build_revision}</span>
            <Box component="span" className="weight-700">{trial.ended === null ? "running" : ""}</Box>
            {trial.can_judge && <MuiLink component={Link} to={`/builds/${build.id}/verdict?trial=${trial.id}`} color="inherit">verdict</MuiLink>}
          </Box>
        ))}
      </Box>
      {ofClass && <ClassDialog state={state} onClose={() => setOfClass(false)} />}
      {starting && <StartTrial state={state} onClose={() => setStarting(false)} />}
    </Box>
  );
}
