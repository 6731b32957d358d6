import { Box, Typography } from "@mui/material";
import type { Flag } from "../api/client";
import { usePrefs } from "../look/prefs";
import { say } from "../look/units";

/** Cautions and limits, worst first; each ends in what to do. */
const MARK: Record<Flag["level"], string> = { stop: "Stop", warn: "Mind", note: "Note" };
const RANK: Flag["level"][] = ["stop", "warn", "note"];

export function Flags({ flags }: { flags: Flag[] }) {
  const { units } = usePrefs();
  const sorted = [...flags].sort((a, b) => RANK.indexOf(a.level) - RANK.indexOf(b.level));
  return (
    <>
    <Box component="ul" className="no-marks p-0 m-0" aria-label="cautions">
      {sorted.map((flag) => (
        <Box
          component="li" key={say(flag.text, units)}
          sx={(t) => ({ py: 0.5, pl: 1, mb: 0.5, borderLeft: `4px solid ${flag.level === "stop" ? t.ink.stop : flag.level === "warn" ? t.ink.sun : t.ink.rule}` })}
        >
          <Typography variant="body2"><b>{MARK[flag.level]}.</b> {say(flag.text, units)}</Typography>
        </Box>
      ))}
    </Box>
      <Typography variant="body2" className="ink-soft mt-0_5">
        None of this declares anything safe; local codes and makers' instructions come first.
      </Typography>
    </>
  );
}
