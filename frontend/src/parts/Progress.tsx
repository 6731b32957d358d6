import { Box, Button, LinearProgress, Typography } from "@mui/material";
import type { Long } from "./useLong";
import { Problem } from "./Problem";

/** How far a long answer is, with a way to stop it; what stopped it, where it did not end well. */
export function Progress({ long, what }: { long: Long; what: string }) {
  const { job } = long;
  if (long.error) return <Problem error={long.error} />;
  if (job?.state === "refused" || job?.state === "failed") return <Problem error={new Error(job.why)} />;
  if (job?.state === "stopped") return <Typography className="ink-soft">Stopped: what stands here is what was known by then.</Typography>;
  if (job && !long.running) return null;
  const percent = Math.round(100 * (job?.share ?? 0));
  return (
    <Box className="flex gap-1 items-center my-0_5" role="status">
      <Box className="flex-1"><LinearProgress variant="determinate" value={percent} color="inherit" aria-label={what} /></Box>
      <Typography variant="body2">{what}, {percent} %</Typography>
      <Button onClick={long.stop}>Stop</Button>
    </Box>
  );
}
