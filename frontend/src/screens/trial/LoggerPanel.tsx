import { Box, Button, Typography } from "@mui/material";
import { useState } from "react";
import type { TrialBook, TrialView } from "../../api/client";

/** How a small logger posts into this trial: its address, its token, and lines it may send. */
export function LoggerPanel({ trial, book }: { trial: TrialView; book: TrialBook }) {
  const [shown, setShown] = useState(false);
  const address = `${location.origin}/api/trials/${trial.id}/ingest`;
  const first = trial.channels[0]!;
  const unit = book.usual_units[first.quantity]!;
  const token = shown ? trial.token : "…";
  return (
    <Box component="details" className="mt-2 border-top-1-ink pt-1">
      <Typography component="summary" variant="h2" className="display-list-item cursor-pointer">Post from a logger</Typography>
      <Typography>POST to <code>{address}</code> with the header <code>Authorization: Bearer {token}</code>. Whoever has the token can add readings to this trial, and to no other.</Typography>
      <Button className="my-1" onClick={() => setShown(!shown)}>{shown ? "Hide the token" : "Show the token"}</Button>
      <Typography variant="h3">Lines, as text/csv</Typography>
      <Box component="pre" tabIndex={0} aria-label="lines a logger may send" className="overflow-auto m-0 size-13">{`time,channel,value,unit\n2025-06-12T10:05:00Z,${first.name},48.5,${unit}\n,${first.name},48.9,${unit}`}</Box>
      <Typography variant="body2">Seconds since 1970 do for the time as well; no time means now. The same line sent twice counts once.</Typography>
      <Typography variant="h3" className="mt-1">Or JSON</Typography>
      <Box component="pre" tabIndex={0} aria-label="JSON a logger may send" className="overflow-auto m-0 size-13">{`{"readings": [{"time": "2025-06-12T10:05:00Z", "channel": "${first.name}", "value": 48.5, "unit": "${unit}"}]}`}</Box>
      <Typography variant="body2">Channels: {trial.channels.map((c) => c.name).join(", ")}. What cannot be is taken in and flagged, and the answer says so.</Typography>
    </Box>
  );
}
