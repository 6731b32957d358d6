import { Box, Button, Link as MuiLink, Typography, useTheme } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useLocation } from "react-router";
import { answered, asProblem, client, type Tick, type Yard } from "../../api/client";
import { yardQuery } from "../../api/queries";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { outcomeWords } from "../../look/words";
import { Problem, Waiting } from "../../parts/Problem";
import { useAccent } from "../../kinds";
import { GUTTER, timeScale } from "../../parts/timeScale";
import { useWidth } from "../../parts/useWidth";
import { Today } from "./Today";

/** All builds at this site on the strip's own hours, what is running, and the next five things to do. */
export default function YardScreen() {
  const { siteId, day, site, domain } = useDay();
  const { units } = usePrefs();
  const { search } = useLocation();
  const { data, error, isPlaceholderData, refetch } = useQuery(yardQuery(siteId, day));
  const tick = useTick(siteId);
  if (error) return <Problem error={error} retry={() => void refetch()} />;
  if (!data || !domain) return <Waiting what="Asking the twins" />;
  return (
    <Box sx={{ opacity: isPlaceholderData ? 0.6 : 1 }}>
      <Box className="px-2 pt-1_5">
        <Typography variant="h1">What the yard can do today</Typography>
      </Box>
      {data.lines.length === 0 && (
        <Typography className="px-2 py-2">
          No build stands here yet. <MuiLink component={Link} to={`/sites/${siteId}/new`}>Make the first one</MuiLink>.
        </Typography>
      )}
      {data.lines.map((line) => <YardRow key={line.build.id} line={line} />)}
      <Box className="px-2 py-1_5">
        <Typography variant="h2">Next things to do</Typography>
        {data.next_things.length === 0 && <Typography>Nothing more today.</Typography>}
        <Box component="ol" className="m-0 pl-0 no-marks">
          {data.next_things.map((thing) => (
            <Box component="li" key={`${thing.time}${say(thing.text, units)}`} className="flex gap-2 py-0_6 border-bottom-1-rule">
              <Box className="weight-700 width-52">{clockTime(thing.time, site.time_zone)}</Box>
              <MuiLink className="flex-1" component={Link} to={thing.trial_id ? `/trials/${thing.trial_id}` : `/builds/${thing.build_id}/forecast${search}`} color="inherit">
                {say(thing.text, units)}
              </MuiLink>
              {!thing.somebody_there && <Typography variant="body2">nobody is there then; see “When nobody is there” on its forecast</Typography>}
              {thing.tick && <Button disabled={tick.isPending} aria-label={`Done: ${say(thing.text, units)}`} onClick={() => tick.mutate({ build: thing.build_id, tick: thing.tick! })}>Done</Button>}
            </Box>
          ))}
        </Box>
        <Typography variant="body2" className="mt-1">On a phone: <MuiLink href={`/api/sites/${siteId}/plan.ics?days=7`} download>the week's plans as a calendar</MuiLink>; a calendar program may also subscribe to that address.</Typography>
        {data.lines.length > 0 && <Today key={`${siteId} ${day}`} />}
      </Box>
    </Box>
  );
}

/** Mark a step of a plan as done: it leaves the list, and stands in the build's book and in its running trials. */
function useTick(siteId: number) {
  const cache = useQueryClient();
  const notices = useNotices();
  return useMutation({
    mutationFn: ({ build, tick }: { build: number; tick: Tick }) => answered(client.POST("/api/sites/{id}/yard/{part_id}/tick", { params: { path: { id: siteId, part_id: build } }, body: tick })),
    onSuccess: (done) => {
      for (const key of ["yard", "sheets", "trial"]) void cache.invalidateQueries({ queryKey: [key] });
      notices.say(done.trial_ids.length > 0 ? "Done; it stands in the running trial too." : "Done.");
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
}

function YardRow({ line }: { line: Yard["lines"][number] }) {
  const { domain, lamp, site } = useDay();
  const { units } = usePrefs();
  const { ink } = useTheme();
  const accent = useAccent(line.build.spec);
  const { search } = useLocation();
  const [ref, width] = useWidth();
  const outcome = line.outcome;
  const hot = outcome?.curves.find((c) => c.node === outcome.judged);
  const headline = line.problem.length > 0
    ? say(line.problem, units)
    : (outcome && outcomeWords(outcome, units, site.time_zone)) ?? "no sun today";
  const x = timeScale(domain!, width || 800);
  const top = 64;
  const y = (c: number) => top - 3 - (Math.max(c, 0) / 160) * (top - 6);
  const ends: number[] = [];
  const steps = line.plan
    .map((s) => ({ at: Date.parse(s.time), text: `${clockTime(s.time, site.time_zone)} ${say(s.text, units)}` }))
    .filter((s) => s.at >= domain![0] && s.at <= domain![1])
    .map((s) => {
      // The first row whose last label ends before this one begins.
      const free = ends.findIndex((end) => end < x(s.at));
      const row = free === -1 ? ends.length : free;
      ends[row] = x(s.at) + 10 + s.text.length * 6.6;
      return { ...s, row };
    });
  const path = (hot?.temperature_c ?? [])
    .map((c, i) => ({ c, at: Date.parse(outcome!.times[i]!) }))
    .filter((p) => p.c != null && p.at >= domain![0] && p.at <= domain![1])
    .map((p, i) => `${i ? "L" : "M"}${x(p.at).toFixed(1)} ${y(p.c!).toFixed(1)}`).join("");
  return (
    <Box component="article" className="border-bottom-1-rule pt-1">
      <Box className="px-2 flex gap-2 items-baseline wrap">
        <MuiLink component={Link} to={`/builds/${line.build.id}/forecast${search}`} variant="h2" color="primary">{line.build.name}</MuiLink>
        <Typography>{headline}</Typography>
        {line.running.map((id) => (
          <MuiLink key={id} component={Link} to={`/trials/${id}`} className="weight-700">trial running</MuiLink>
        ))}
      </Box>
      <Box ref={ref}>
        <svg width="100%" height={top + 12 + 17 * Math.max(ends.length, 1)} role="img" aria-label={`${line.build.name} through the day`}>
          <line x1={GUTTER.left} x2={(width || 800) - GUTTER.right} y1={top} y2={top} stroke={ink.ink} />
          <path d={path} fill="none" stroke={accent} strokeWidth={2.2} />
          {steps.map((s) => (
            <g key={s.text}>
              <line x1={x(s.at)} x2={x(s.at)} y1={top - 5} y2={top + 16 + s.row * 17} stroke={ink.ink} />
              <text x={x(s.at) + 4} y={top + 15 + s.row * 17} fontSize={12.5} fill={ink.ink}>{s.text}</text>
            </g>
          ))}
          <line x1={x(lamp)} x2={x(lamp)} y1={0} y2={top} stroke={ink.sun} strokeWidth={1.5} />
        </svg>
      </Box>
    </Box>
  );
}
