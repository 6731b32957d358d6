import { Box } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { runningQuery } from "../../api/queries";
import { clockTime } from "../../look/clock";
import { useDay, useNow } from "../../look/day";

/** Several trials at once: one tap from the one to the next, each with when it wants to be read. */
export function RunningTrials({ here }: { here: number }) {
  const { site } = useDay();
  const now = useNow(10_000);
  const running = useQuery(runningQuery).data ?? [];
  if (running.filter((t) => t.id !== here).length === 0) return null;
  return (
    <Box component="nav" aria-label="running trials" className="flex gap-0_5 overflow-x-auto border-bottom-1-rule px-1">
      {running.map((trial) => {
        const due = trial.next_reading ? Date.parse(trial.next_reading) : null;
        const late = due !== null && now !== null && due <= now && trial.protocol.reading_minutes.length > 0;
        return (
          <Box
            key={trial.id} component={Link} to={`/trials/${trial.id}`} aria-current={trial.id === here ? "page" : undefined}
            sx={(t) => ({ flex: "0 0 auto", px: 1.5, py: 1, minHeight: 48, color: late ? t.ink.stop : t.ink.ink, textDecoration: "none", borderBottom: `4px solid ${trial.id === here ? t.ink.sun : "transparent"}` })}
          >
            <b>{trial.name}</b>{due !== null && trial.protocol.reading_minutes.length > 0 && ` · ${late ? "read now" : clockTime(due, site.time_zone)}`}
          </Box>
        );
      })}
    </Box>
  );
}
