import { Box, Link as MuiLink, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import type { TrialView } from "../../api/client";
import { bookQuery, runningQuery, trialQuery, verdictQuery } from "../../api/queries";
import { named } from "../../look/names";
import { dateTimeWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { useLater } from "../../parts/Later";
import { Problem, Waiting } from "../../parts/Problem";
import { ClassPanel } from "./ClassPanel";
import { LogDays } from "./LogDays";
import { Sheets } from "../../parts/Sheets";
import { TrialChart } from "../../parts/TrialChart";
import { Field } from "./Field";
import { ImportReadings } from "./ImportReadings";
import { Instruments } from "./Instruments";
import { Log } from "./Log";
import { LoggerPanel } from "./LoggerPanel";
import { PaperTable } from "./PaperTable";
import { Photos } from "./Photos";
import { RunningTrials } from "./RunningTrials";

/** Field mode: one hand, gloves, glare. Next reading's countdown, last value huge, keypad, event keys; the rest beside or below. */
export default function TrialScreen() {
  const id = Number(useParams().trialId);
  const trial = useQuery({ ...trialQuery(id), refetchInterval: 10_000 });
  const book = useQuery(bookQuery);
  const running = useQuery(runningQuery);
  if ((trial.error && !trial.data) || book.error) return <Problem error={trial.error ?? book.error} />;
  if (!trial.data || !book.data || running.isLoading) return <Waiting what="Opening the trial" />;
  return (
    <>
      <RunningTrials here={id} />
      <Box
        className="trial-page"
      >
        <Field trial={trial.data} book={book.data} />
        <Beside trial={trial.data} />
      </Box>
    </>
  );
}

function Beside({ trial }: { trial: TrialView }) {
  const { site } = useDay();
  const book = useQuery(bookQuery).data!;
  const judged = useQuery({ ...verdictQuery(trial.id, trial.mark), enabled: trial.can_judge });
  const verdict = useLater(judged.data);
  const waits = trial.can_judge && !verdict && !judged.error;
  return (
    <Box className="min-width-0">
      <Typography variant="h1">{trial.name}</Typography>
      <Typography variant="body2">
        <MuiLink component={Link} to={`/builds/${trial.build_id}/trials`} color="inherit">{trial.build_name}</MuiLink>, {trial.protocol.title}, started {dateTimeWords(trial.started, site.time_zone)}, noted sky: {named(trial.weather.sky ?? "clear")}
        {trial.can_judge && <>; <MuiLink component={Link} to={`/builds/${trial.build_id}/verdict?trial=${trial.id}`} color="inherit">verdict</MuiLink></>}
      </Typography>
      {trial.reading_count > 0 && trial.boxes === 0 && waits && <Box className="min-height-420" />}
      {trial.reading_count > 0 && trial.boxes === 0 && !waits && <Box className="min-height-420"><TrialChart trial={trial} verdict={verdict} zone={site.time_zone} height={280} /></Box>}
      <ClassPanel trial={trial} />
      {trial.reading_count > 0 && <LogDays trial={trial} />}
      <Sheets of="trial" id={trial.id} photos={trial.photos.map((p) => ({ id: p.id, title: `${dateTimeWords(p.time, site.time_zone)} ${p.note}` }))} />
      <PaperTable trial={trial} book={book} />
      <Log trial={trial} />
      <Photos trial={trial} />
      <Instruments trial={trial} book={book} />
      <LoggerPanel trial={trial} book={book} />
      <ImportReadings trial={trial} book={book} />
    </Box>
  );
}
