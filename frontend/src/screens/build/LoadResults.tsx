import { Box, Typography } from "@mui/material";
import type { Outcome } from "../../api/client";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";

/** What becomes of the load on the chosen day: how far each portion gets, clean wax, whistles. */
export function LoadResults({ outcome }: { outcome: Outcome }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const { portions, whistles } = outcome.results;
  const at = (time: string | null) => (time ? clockTime(time, site.time_zone) : "–");
  return (
    <>
      {outcome.said && <Typography className="weight-650 my-0_5">{say(outcome.said, units)}</Typography>}
      {portions.length > 0 && (
        <Box component="table" sx={(t) => ({ borderCollapse: "collapse", my: 1, "& td, & th": { border: `1px solid ${t.ink.rule}`, px: 1, py: 0.25, textAlign: "left" } })}>
          <thead><tr><th scope="col">portion</th><th scope="col">becomes</th><th scope="col">soft at</th><th scope="col">melted at</th><th scope="col">hottest</th></tr></thead>
          <tbody>
            {portions.map((p) => (
              <tr key={p.node}><th scope="row">{p.title}</th><td><b>{p.state}</b></td><td>{at(p.soft_at)}</td><td>{at(p.melted_at)}</td><td>{withUnit(p.hottest_c, "temperature", units)}</td></tr>
            ))}
          </tbody>
        </Box>
      )}
      {whistles.length > 0 && <Typography className="my-0_5">First whistle at {at(whistles[0]!)}, the sixth at {at(whistles[5] ?? null)} if nobody takes it off.</Typography>}
    </>
  );
}
