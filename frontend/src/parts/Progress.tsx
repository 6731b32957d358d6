import { Box, Button, LinearProgress, Typography } from "@mui/material";
import { useProgress, type Heavy } from "../api/heavy";
import { Problem } from "./Problem";

interface Props {
  answer: Heavy;
  what: string;
}

/** How far a heavy answer is, said at once, with a way to stop it; what became of it, where it did not end well. */
export function Progress({ answer, what }: Props) {
  const { progress, stop, again } = useProgress(answer.asked);
  if (answer.error && !answer.isFetching) {
    return <><Problem error={answer.error} />{progress?.state === "stopped" && <Button onClick={again}>Ask again</Button>}</>;
  }
  if (!answer.isFetching) {
    if (progress?.state !== "stopped" || answer.isPlaceholderData) return null;
    return <Box className="flex gap-1 items-center"><Typography className="ink-soft flex-1" role="status">It was stopped: what stands here is what was known by then.</Typography><Button onClick={again}>Go on</Button></Box>;
  }
  const percent = Math.round(100 * (progress?.share ?? 0));
  const said = !progress || progress.state === "waiting" ? "starting …" : `${percent} %`;
  return (
    <Box className="flex gap-1 items-center my-0_5" role="status">
      <Box className="flex-1"><LinearProgress variant={percent > 0 ? "determinate" : "indeterminate"} value={percent} color="inherit" aria-label={what} /></Box>
      <Typography variant="body2">{what}: {said}</Typography>
      <Button onClick={stop} disabled={!progress?.job} aria-label={`Stop: ${what}`}>Stop</Button>
    </Box>
  );
}
