import { Box, Button, Link as MuiLink, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answered, client, type Unreadable } from "../../api/client";
import { unreadableQuery } from "../../api/queries";
import { useNotices } from "../../look/notices";
import { Problem, Waiting } from "../../parts/Problem";

const KINDS: Record<string, string> = {
  site: "A place", build: "A build", "load-of-build": "What goes into a build", "weather-of-trial": "The weather of a trial", "load-of-trial": "What went into a trial",
  "goal-of-trial": "The goal of a trial", "calibration-of-channel": "An instrument’s calibration", calibration: "What a trial taught the twin", day: "A day’s weather as typed",
};

/** What the data file holds and nothing can read any more: each as it stands, why, and how it is put right. */
export default function UnreadableScreen() {
  const { data, error, refetch } = useQuery(unreadableQuery);
  if (error) return <Problem error={error} retry={() => void refetch()} />;
  if (!data) return <Waiting what="Looking through the data file" />;
  return (
    <Box component="main" className="p-2 max-width-900">
      <Typography variant="h1">Cannot be read</Typography>
      {data.length === 0 ? <Typography>Everything in the data file can be read.</Typography> : (
        <Typography>These stand in the data file and cannot be read any more, after a fault of the disk, say, or a change by another program. They are left out of every list until they are put right; nothing of them is lost. If you have a copy of the data file, it may be quicker to put that in its place.</Typography>
      )}
      {data.map((one) => <Broken key={`${one.what}/${one.key}`} one={one} />)}
      <Typography className="mt-2"><MuiLink component={Link} to="/" color="inherit">Back to the yard</MuiLink></Typography>
    </Box>
  );
}

function Broken({ one }: { one: Unreadable }) {
  const [text, setText] = useState(one.text);
  const cache = useQueryClient();
  const notices = useNotices();
  const mend = useMutation({
    mutationFn: () => answered(client.PUT("/api/unreadable/{what}/{key}", { params: { path: { what: one.what, key: one.key } }, body: { text } })),
    onSuccess: () => {
      notices.say(`${one.name} can be read again.`);
      void cache.invalidateQueries();
    },
  });
  return (
    <Box component="section" aria-label={one.name} className="border-left-6-stop on-raised p-1_5 my-1_5">
      <Typography variant="h2">{KINDS[one.what] ?? "A material of your own"}: {one.name}</Typography>
      <Typography className="mb-1">{one.why}</Typography>
      <TextField multiline fullWidth minRows={3} maxRows={12} label="As it stands" value={text} onChange={(e) => setText(e.target.value)} slotProps={{ inputLabel: { shrink: true }, htmlInput: { spellCheck: false, className: "size-13" } }} />
      {mend.error && <Problem error={mend.error} />}
      <Box className="flex wrap gap-1 mt-1">
        <Button variant="contained" disabled={mend.isPending || text === one.text} onClick={() => mend.mutate()}>Keep it so</Button>
        {one.better && <Button onClick={() => setText(one.better)}>Take the newest revision that can be read</Button>}
        {text !== one.text && <Button onClick={() => setText(one.text)}>As it stood</Button>}
      </Box>
    </Box>
  );
}
