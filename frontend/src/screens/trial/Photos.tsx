import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { answered, asProblem, client, type TrialBook, type TrialView } from "../../api/client";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { sendPhoto } from "../../parts/sent";

/** Photos of a trial: taken with the phone, made smaller by the server, stripped of where they were taken. */
export function PhotoButton({ trial, book, note, title = "Photo", onTaken }: { trial: TrialView; book: TrialBook; note: string; title?: string; onTaken: (next: TrialView) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const notices = useNotices();
  const cache = useQueryClient();
  const take = useMutation({
    mutationFn: (file: File) => sendPhoto<TrialView>(`/api/trials/${trial.id}/photos?note=${encodeURIComponent(note.trim())}`, file, book.photo_most_bytes),
    onSuccess: (next) => {
      cache.setQueryData(["trial", trial.id], next);
      onTaken(next);
      notices.say("Photo kept.");
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  return (
    <>
      <Button disabled={take.isPending} onClick={() => input.current?.click()}>{take.isPending ? "Sending …" : title}</Button>
      <input ref={input} type="file" hidden accept="image/*" capture="environment" aria-label={title.toLowerCase()} onChange={(e) => { const file = e.target.files?.[0]; if (file) take.mutate(file); e.target.value = ""; }} />
    </>
  );
}

export function Photos({ trial }: { trial: TrialView }) {
  const { site } = useDay();
  const notices = useNotices();
  const cache = useQueryClient();
  const took = (next: TrialView) => cache.setQueryData(["trial", trial.id], next);
  const path = (part: number) => ({ params: { path: { id: trial.id, part_id: part } } });
  const restore = useMutation({ mutationFn: (id: number) => answered(client.POST("/api/trials/{id}/photos/{part_id}/restore", path(id))), onSuccess: took });
  const withdraw = useMutation({
    mutationFn: (id: number) => answered(client.POST("/api/trials/{id}/photos/{part_id}/withdraw", path(id))),
    onSuccess: (next, id) => {
      took(next);
      notices.say("Photo taken back.", { label: "Bring it back", run: () => restore.mutate(id) });
    },
  });
  if (trial.photos.length === 0) return null;
  return (
    <Box className="mt-2">
      <Typography variant="h2">Photos</Typography>
      <Box className="flex gap-1 wrap">
        {trial.photos.map((p) => (
          <Box component="figure" key={p.id} className="m-0 width-160">
            <Box component="img" src={`/api/trials/${trial.id}/photos/${p.id}`} alt={p.note || `photo of ${clockTime(p.time, site.time_zone)}`} className="width-100pc border-1-ink as-block" />
            <Typography component="figcaption" variant="body2">{clockTime(p.time, site.time_zone)} {p.note}</Typography>
            <Button variant="text" onClick={() => withdraw.mutate(p.id)} aria-label={`Take back the photo of ${clockTime(p.time, site.time_zone)}`}>Take back</Button>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
