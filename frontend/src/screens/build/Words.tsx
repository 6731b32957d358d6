import { Typography } from "@mui/material";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";

/** An answer's own words. */
export function Words({ said }: { said: Parameters<typeof say>[0] }) {
  const { units } = usePrefs();
  return <Typography className="weight-650 mb-0_5" aria-live="polite">{say(said, units)}</Typography>;
}
