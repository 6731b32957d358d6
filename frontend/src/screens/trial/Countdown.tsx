import { Box, Typography, useTheme } from "@mui/material";
import type { TrialView } from "../../api/client";
import { clockTime } from "../../look/clock";
import { useDay, useNow } from "../../look/day";

/** A ring that closes towards the next planned reading. */
export function Countdown({ trial }: { trial: TrialView }) {
  const { ink } = useTheme();
  const { site } = useDay();
  const now = useNow(1000) ?? Date.parse(trial.started);
  const started = Date.parse(trial.started);
  const elapsed = Math.max(0, now - started);
  const due = trial.next_reading ? Date.parse(trial.next_reading) : null;
  const planned = trial.protocol.reading_minutes;
  const before = started + (planned[trial.rounds_done - 1] ?? 0) * 60_000;
  const left = due === null ? null : due - now;
  const share = due === null || due <= before ? 1 : Math.min(1, Math.max(0, (now - before) / (due - before)));
  const free = planned.length === 0;
  const radius = 27;
  const around = 2 * Math.PI * radius;
  const words = free
    ? "Read whenever you like"
    : left === null
      ? "All planned readings are in."
      : left <= 0
        ? `Read now (due ${clockTime(due!, site.time_zone)})`
        : `Next reading at ${clockTime(due!, site.time_zone)}`;
  return (
    <Box className="flex gap-1_5 items-center min-height-72">
      <svg width={64} height={64} aria-hidden>
        <circle cx={32} cy={32} r={radius} fill="none" stroke={ink.rule} strokeWidth={7} />
        {!free && <circle cx={32} cy={32} r={radius} fill="none" stroke={ink.sun} strokeWidth={7} strokeDasharray={`${share * around} ${around}`} transform="rotate(-90 32 32)" />}
      </svg>
      <Box>
        <Typography className="weight-700 size-17">{words}</Typography>
        <Typography variant="body2" role="timer">
          {left !== null && left > 0 && !free ? `in ${clock(left)}; ` : ""}{clock(elapsed)} since the start{planned.length > 0 && <>; <span className="one-line">round {Math.min(trial.rounds_done + 1, planned.length)} of {planned.length}</span></>}
        </Typography>
      </Box>
    </Box>
  );
}

function clock(ms: number): string {
  const seconds = Math.floor(ms / 1000);
  const hours = Math.floor(seconds / 3600);
  const minutes = String(Math.floor((seconds % 3600) / 60)).padStart(hours ? 2 : 1, "0");
  return `${hours ? `${hours}:` : ""}${minutes}:${String(seconds % 60).padStart(2, "0")}`;
}
