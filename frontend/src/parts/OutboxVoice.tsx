import { Box } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { answered, client } from "../api/client";
import { clockWords } from "../look/clock";
import { useNotices } from "../look/notices";
import { outbox } from "../look/outbox";
import { usePrefs } from "../look/prefs";
import { say } from "../look/units";

/** Says what became of what waited on the device, whichever page is open by then. */
export function OutboxVoice() {
  const cache = useQueryClient();
  const notices = useNotices();
  const { units } = usePrefs();
  useEffect(() => {
    const refresh = (trial: number) => {
      void cache.invalidateQueries({ queryKey: ["trial", trial] });
      for (const key of ["trials", "yard"]) void cache.invalidateQueries({ queryKey: [key] });
    };
    const gone = outbox.listen((told) => {
      const path = { path: { id: told.trial } };
      if (told.what === "refused") {
        notices.warn(`Not kept, ${told.words}: ${told.why}`);
        return;
      }
      refresh(told.trial);
      if (told.what === "readings") {
        told.answer.flagged.forEach((f) =>
          notices.warn(say(f.flag_text, units), {
            label: "Take it back",
            run: () => void answered(client.POST("/api/trials/{id}/readings/withdraw", { params: path, body: { channel: f.channel, time: f.time } })).then(() => {
              refresh(told.trial);
              notices.say("Reading taken back.", {
                label: "Bring it back",
                run: () => void answered(client.POST("/api/trials/{id}/readings/restore", { params: path, body: { channel: f.channel, time: f.time } })).then(() => refresh(told.trial)),
              });
            }),
          }),
        );
        told.answer.contradicting.forEach((c) => notices.warn(`There is already another value of ${c.channel} at ${clockWords(c.time)}; it was kept.`));
      }
      if (told.what === "event" && told.id !== undefined) {
        const part = told.id;
        notices.say(told.event.kind === "note" ? "The note is kept." : `${told.event.kind} noted.`, {
          label: "Undo",
          run: () => void answered(client.POST("/api/trials/{id}/events/{part_id}/withdraw", { params: { path: { id: told.trial, part_id: part } } })).then(() => refresh(told.trial)),
        });
      }
      if (told.what === "photo") notices.say("Photo kept.");
    });
    return () => void gone();
  }, [cache, notices, units]);
  return null;
}

/** A clear word of what waits, on every screen, for as long as it does. */
export function WaitingWords() {
  const waiting = useSyncExternalStore(outbox.watch, outbox.waiting);
  if (waiting.all === 0) return null;
  const counted = [[waiting.readings, "reading"], [waiting.events, "event"], [waiting.photos, "photo"]] as const;
  const words = counted.filter(([n]) => n > 0).map(([n, what]) => `${n} ${what}${n === 1 ? "" : "s"}`).join(", ");
  return (
    <Box role="status" className="waiting-words no-print">
      {waiting.stopped ? `${words} kept on this device, not sent: ${waiting.stopped}` : `${words} kept on this device until the server answers.`}
    </Box>
  );
}
