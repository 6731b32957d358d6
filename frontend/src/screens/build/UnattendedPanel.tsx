import { Box, Button, Link as MuiLink, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useHeavy } from "../../api/heavy";
import { sheetsQuery, unattendedQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Progress } from "../../parts/Progress";
import type { BuildState } from "./useBuild";

/** How to leave it while nobody is there, by the hours that stand on the shelf. */
export function UnattendedPanel({ state }: { state: BuildState }) {
  return <Asked title="When nobody is there" door="The best way to leave it alone"><Left state={state} /></Asked>;
}

function Left({ state }: { state: BuildState }) {
  const { siteId } = useDay();
  const { units } = usePrefs();
  const rows = useQuery(sheetsQuery("site", siteId)).data?.find((s) => s.name === "house")?.rows;
  const asked = useHeavy(unattendedQuery(state.request!, JSON.stringify(rows)), rows !== undefined);
  const found = asked.data;
  return (
    <Box>
      <Progress answer={asked} what="Leaving it alone" />
      {asked.error && <Typography>The hours are written down <MuiLink component={Link} to={`/sites/${siteId}/shelf`}>on the shelf, under the house</MuiLink>.</Typography>}
      {found?.words.map((w, k) => <Typography key={k} className={k === 0 ? "weight-650" : ""}>{say(w, units)}</Typography>)}
      {found && found.best.spec !== state.draft!.spec && <Button variant="outlined" className="mt-0_5" onClick={() => state.save({ spec: found.best.spec }, "left alone while nobody is there")}>Leave it that way</Button>}
    </Box>
  );
}
