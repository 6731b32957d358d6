import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { answered, client, type TrialBook, type TrialView } from "../../api/client";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { tooLarge } from "../../parts/sent";

/** Photos of a trial: taken with the phone, kept on it until the server has them, made smaller there, stripped of where they were taken. */
export function PhotoButton({ book, title = "Photo", onTaken }: { book: TrialBook; title?: string; onTaken: (file: File) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const notices = useNotices();
  const take = (file: File | undefined) => {
    if (!file) return;
    if (file.size > book.photo_most_bytes) notices.warn(tooLarge(file, book.photo_most_bytes).message);
    else onTaken(file);
  };
  return (
    <>
      <Button onClick={() => input.current?.click()}>{title}</Button>
      <input ref={input} type="file" hidden accept="image/*" capture="environment" aria-label={title.toLowerCase()} onChange={(e) => { take(e.target.files?.[0]); e.target.value = ""; }} />
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
      notices.done("Photo taken back.", () => restore.mutate(id));
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
