import { Box, Button, Link as MuiLink, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { answered, asProblem, client, type CanDo } from "../../api/client";
import { useHeavy } from "../../api/heavy";
import { buildsQuery, canDoQuery } from "../../api/queries";
import { KindGlyph } from "../../kinds";
import { clockTime, dayWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Progress } from "../../parts/Progress";

/** What every build of the yard can bring off on the day, one list, the earliest first; a tap makes it the plan. */
export function Today() {
  return <Asked title="What can it do today?" door="Try every food, wax and load"><Found /></Asked>;
}

const FIRST = 20;

function Found() {
  const { siteId, day } = useDay();
  const { units } = usePrefs();
  const [all, setAll] = useState(false);
  const builds = useQuery(buildsQuery(siteId)).data ?? [];
  const asked = useHeavy(canDoQuery(siteId, day, JSON.stringify(builds.map((b) => [b.id, b.revision]))), builds.length > 0);
  const found = asked.data;
  return (
    <Box component="section" aria-label="what it can do today">
      <Progress answer={asked} what="Builds so far" />
      {found?.words.map((w, k) => <Typography key={k}>{say(w, units)}</Typography>)}
      <Box component="ol" className="no-marks p-0 m-0">
        {found?.lines.slice(0, all ? undefined : FIRST).map((line) => <Line key={`${line.build_id} ${line.good} ${line.is_in}`} line={line} />)}
      </Box>
      {found && found.lines.length > FIRST && !all && <Button onClick={() => setAll(true)}>All {found.lines.length}</Button>}
    </Box>
  );
}

function Line({ line }: { line: CanDo }) {
  const { siteId, site, day } = useDay();
  const { units } = usePrefs();
  const cache = useQueryClient();
  const notices = useNotices();
  const navigate = useNavigate();
  const build = (useQuery(buildsQuery(siteId)).data ?? []).find((b) => b.id === line.build_id);
  const plan = useMutation({
    mutationFn: () => answered(client.PUT("/api/builds/{id}", { params: { path: { id: line.build_id }, header: { "If-Match": `"r${build!.revision}"` } }, body: { name: build!.name, spot: build!.spot, spec: build!.spec, load: line.load, note: `${line.good} for ${day}` } })),
    onSuccess: (saved) => { cache.setQueryData(["build", saved.id], saved); for (const key of ["builds", "yard"]) void cache.invalidateQueries({ queryKey: [key] }); void navigate(`/builds/${saved.id}/forecast?day=${day}`); },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const at = line.ready.slice(0, 10) === day ? clockTime(line.ready, site.time_zone) : dayWords(line.ready.slice(0, 10));
  return (
    <Box component="li" className="flex wrap gap-2 items-center py-0_6 border-bottom-1-rule">
      <Box className="weight-700 width-52">{at}</Box>
      {build && <KindGlyph spec={build.spec} />}
      <Typography className="flex-1"><MuiLink component={Link} to={`/builds/${line.build_id}/forecast`} color="inherit">{line.build}</MuiLink>: {line.good}{line.amount !== null && line.quantity !== null && `, ${withUnit(line.amount, line.quantity, units)}`}{line.chance !== null && <span className="ink-soft">, on {Math.round(100 * line.chance)} of 100 days like this</span>}</Typography>
      {line.is_in ? <Typography variant="body2">in it by plan</Typography> : <Button disabled={plan.isPending || !build} aria-label={`Make it the plan: ${line.good} in ${line.build}`} onClick={() => plan.mutate()}>Make it the plan</Button>}
    </Box>
  );
}
