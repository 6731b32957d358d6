import { Box } from "@mui/material";
import { useEffect, useSyncExternalStore } from "react";
import { counted } from "../look/counted";
import { clockWords } from "../look/clock";
import { useNotices } from "../look/notices";
import { outbox } from "../look/outbox";
import { usePrefs } from "../look/prefs";
import { undoing } from "../look/undo";
import { say } from "../look/units";
import { useTrialBacks } from "./useTrialChanges";

/** Says what became of what waited on the device, whichever page is open by then. */
export function OutboxVoice() {
  const notices = useNotices();
  const backs = useTrialBacks();
  const { units } = usePrefs();
  useEffect(() => {
    const gone = outbox.listen((told) => {
      if (told.what === "refused") {
        notices.warn(`Not kept, ${told.words}: ${told.why}`);
        return;
      }
      backs.refresh(told.trial);
      if (told.what === "readings") {
        told.sent.forEach(({ words, ...key }) => undoing.did(words, () => backs.withdraw(told.trial, key, { undone: true })));
        told.answer.flagged.forEach((f) => notices.warn(say(f.flag_text, units), { label: "Take it back", run: () => void backs.withdraw(told.trial, f) }));
        told.answer.contradicting.forEach((c) => notices.warn(`There is already another value of ${c.channel} at ${clockWords(c.time)}; it was kept.`));
      }
      if (told.what === "event") {
        const { id, trial } = told;
        const words = told.event.kind === "note" ? "The note is kept." : `${told.event.kind} noted.`;
        if (id === undefined) notices.say(words);
        else notices.done(words, () => backs.unnote(trial, id));
      }
      if (told.what === "photo") notices.say("Photo kept.");
    });
    return () => void gone();
  }, [backs, notices, units]);
  return null;
}

/** A clear word of what waits, on every screen, for as long as it does. */
export function WaitingWords() {
  const waiting = useSyncExternalStore(outbox.watch, outbox.waiting);
  if (waiting.all === 0) return null;
  const { readings, events, photos } = waiting;
  const words = [readings && counted(readings, "reading"), events && counted(events, "event"), photos && counted(photos, "photo")].filter(Boolean).join(", ");
  return (
    <Box role="status" className="waiting-words no-print">
      {waiting.stopped ? `${words} kept on this device, not sent: ${waiting.stopped}` : `${words} kept on this device until the server answers.`}
    </Box>
  );
}
