import { Box, Button, Link as MuiLink, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answered, client, type YardPreview } from "../../api/client";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { Problem } from "../../parts/Problem";

const asBytes = (file: File) => ({ body: file as never, bodySerializer: (body: unknown) => body as File, headers: { "Content-Type": "application/octet-stream" } });

/** All of the yard out as one file, and one in: looked at first, then all of it or nothing. */
export function YardFile() {
  const { units } = usePrefs();
  const cache = useQueryClient();
  const notices = useNotices();
  const input = useRef<HTMLInputElement>(null);
  const [seen, setSeen] = useState<{ file: File; preview: YardPreview } | null>(null);
  const look = useMutation({
    mutationFn: async (file: File) => ({ file, preview: await answered(client.POST("/api/yard/preview", asBytes(file))) }),
    onSuccess: setSeen,
  });
  const take = useMutation({
    mutationFn: (file: File) => answered(client.POST("/api/yard/take-in", asBytes(file))),
    onSuccess: () => { setSeen(null); void cache.invalidateQueries(); notices.say("All of it came in. Its places stand in the list on top."); },
  });
  const problem = look.error ?? take.error;
  return (
    <Box component="section" aria-label="the yard as one file" className="mt-2 border-top-1-rule pt-1">
      <Typography variant="h2">All of it as one file</Typography>
      <Typography>Places, builds with their history, trials with readings and photos, sheets and own materials, to keep or to move to another machine. Logger tokens stay here. Nothing is encrypted.</Typography>
      <Box className="flex wrap gap-2 items-center my-1">
        <MuiLink href="/api/yard/file" download>Take the yard along</MuiLink>
        <Button variant="outlined" disabled={look.isPending} onClick={() => input.current?.click()}>Look at a yard file …</Button>
        <input ref={input} type="file" hidden accept=".zip" aria-label="yard file" onChange={(e) => { const file = e.target.files?.[0]; if (file) { setSeen(null); look.mutate(file); } e.target.value = ""; }} />
      </Box>
      {problem && <Problem error={problem} />}
      {seen && (
        <Box role="status" className="border-1-rule p-1_5">
          {seen.preview.words.map((w, k) => <Typography key={k}>{say(w, units)}</Typography>)}
          <Box component="ul" className="m-0 pl-2_25">{seen.preview.names.map((n) => <li key={n}>{n}</li>)}</Box>
          <Box className="flex gap-1 mt-1">
            <Button variant="contained" disabled={take.isPending} onClick={() => take.mutate(seen.file)}>Take all of it in</Button>
            <Button onClick={() => setSeen(null)}>Leave it</Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}
