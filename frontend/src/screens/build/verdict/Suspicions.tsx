import { Box, Button, Typography } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { answered, asProblem, client, type TrialView, type Verdict } from "../../../api/client";
import { useNotices } from "../../../look/notices";
import { usePrefs } from "../../../look/prefs";
import { say } from "../../../look/units";
import { useTrialChanges } from "../../../parts/useTrialChanges";

type Suspicion = Verdict["suspicions"][number];

/** What looks wrong with the trial as a whole, each with the one tap that mends it and the one that takes it back. */
export function Suspicions({ trial, verdict }: { trial: TrialView; verdict: Verdict }) {
  const { units } = usePrefs();
  const notices = useNotices();
  const { refresh, withdraw } = useTrialChanges(trial.id);
  const path = { path: { id: trial.id } };
  const shift = useMutation({
    mutationFn: (minutes: number) => answered(client.POST("/api/trials/{id}/shift-clock", { params: path, body: { minutes } })),
    onSuccess: (done, minutes) => {
      refresh();
      notices.done(`${done.moved} readings moved by ${minutes} min.`, () => shift.mutate(-minutes));
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const swap = useMutation({
    mutationFn: (s: Suspicion) => answered(client.POST("/api/trials/{id}/events", { params: path, body: { kind: "swapped", time: s.time, note: s.channels.join("|"), channel: "" } })),
    onSuccess: () => {
      refresh();
      notices.say("Noted: the readings are put back. The event in the log takes it back.");
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const key = (s: Suspicion) => ({ channel: s.channels[0]!, time: s.time! });
  const mends: Partial<Record<Suspicion["kind"], (s: Suspicion) => { words: string; run: () => void }>> = {
    clock: (s) => ({ words: `Move them by ${s.minutes} min`, run: () => shift.mutate(s.minutes!) }),
    far: (s) => ({ words: "Take it back", run: () => void withdraw(key(s), { words: "The reading is taken back." }) }),
    swapped: (s) => ({ words: "They were swapped", run: () => swap.mutate(s) }),
  };
  if (verdict.suspicions.length === 0) return null;
  return (
    <Box component="section" aria-label="what looks wrong" className="border-left-6-stop on-raised p-1_5 my-1">
      {verdict.suspicions.map((s) => {
        const mend = mends[s.kind]?.(s);
        return (
          <Box key={say(s.text, units)} className="flex gap-2 items-center wrap">
            <Typography className="flex-1-1-300px">{say(s.text, units)}</Typography>
            {mend && <Button variant="contained" onClick={mend.run}>{mend.words}</Button>}
          </Box>
        );
      })}
    </Box>
  );
}
