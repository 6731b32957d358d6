import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useLocation } from "react-router";
import { useKnown } from "../../api/heavy";
import { trialsQuery, verdictQuery, weakestQuery } from "../../api/queries";
import { useAccent, useKind } from "../../kinds";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { BuildLife } from "./BuildLife";
import type { BuildState } from "./useBuild";
import { named } from "../../look/names";

/** Keeps the station that is open in sight, where the path is wider than the screen; anew when its words change. */
function useStation(words: string) {
  const here = useRef<HTMLAnchorElement>(null);
  const { pathname } = useLocation();
  useEffect(() => {
    const station = here.current?.getBoundingClientRect();
    const path = here.current?.parentElement;
    if (!station || !path) return;
    const { left, right } = path.getBoundingClientRect();
    if (station.left >= left && station.right <= right) return;
    const beside = (right - left - station.width) / 2;
    const fromRight = getComputedStyle(path).direction === "rtl";
    // In the middle; where it is wider than the path, from where it begins.
    path.scrollBy({ left: beside < 0 && fromRight ? station.right - right : station.left - left - Math.max(beside, 0) });
  }, [words, pathname]);
  return here;
}

/** The path reads as a sentence: each station carries its own headline. */
export function Path({ state, open }: { state: BuildState; open: string }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const { search } = useLocation();
  const [life, setLife] = useState(false);
  const build = state.build!;
  const { spec } = state.draft!;
  const kind = useKind(spec);
  const accent = useAccent(spec);
  const trials = useQuery(trialsQuery(build.id)).data ?? [];
  const read = trials.filter((t) => t.can_judge);
  const judged = read.find((t) => t.ended !== null) ?? read[0];
  const verdict = useQuery({ ...verdictQuery(judged?.id ?? 0, judged?.mark ?? ""), enabled: judged !== undefined }).data;
  const today = state.outcome?.days[0];

  const forecast = (state.outcome?.brief ? say(state.outcome.brief, units) : null) ?? (today
    ? today.target_reached_at && state.outcome?.target_c != null
      ? `${withUnit(state.outcome.target_c, "temperature", units)} at ${clockTime(today.target_reached_at, site.time_zone)}`
      : today.warmed ? `peak ${withUnit(today.peak_c, "temperature", units, { doubt: today.peak_doubt_k || null })}` : "it only cools"
    : "…");
  const weakest = useKnown(weakestQuery(state.request!));
  const top = weakest?.lines.find((l) => l.real && l.gain > 0);
  const said = verdict ? say(verdict.brief, units) : "none yet";
  const running = trials.filter((t) => t.ended === null).length;
  const stations: [string, string][] = [
    ["aim", say(build.aimed, units)],
    ["make", say(build.made, units)],
    ["forecast", forecast],
    ["trials", `${trials.length} so far${running ? `, ${running} running` : ""}`],
    ["verdict", said],
    ...(kind.side_by_side ? [] : [["next", top ? `${say(top.title, units)}: ${withUnit(top.gain, top.quantity, units, { signed: true })}` : "what to change"] as [string, string]]),
  ];
  const here = useStation(stations.map(([, headline]) => headline).join());
  return (
    <Box className="flex border-bottom-1-ink on-raised">
    <Button variant="text" className="build-door" aria-haspopup="dialog" title="its name, copies and history" onClick={() => setLife(true)}>
      <span className="size-12_5 ink-soft as-block">build</span>
      <span className="weight-650">{build.name}</span>
    </Button>
    <BuildLife state={state} open={life} onClose={() => setLife(false)} />
    <Box component="nav" aria-label="stages" className="flex flex-1 overflow-x-auto">
      {stations.map(([name, headline], i) => (
        <Box
          key={name} ref={name === open ? here : undefined} component={Link} to={`/builds/${build.id}/${name}${search}`} aria-current={name === open ? "page" : undefined}
          sx={(t) => ({
            flex: "1 0 auto", minWidth: 128, px: 2, py: 0.75, color: t.ink.ink, textDecoration: "none", position: "relative",
            borderTop: `4px solid ${name === open ? accent : "transparent"}`, borderInlineEnd: i < stations.length - 1 ? `1px solid ${t.ink.rule}` : 0,
            "&:hover": { background: t.ink.paper },
          })}
        >
          <Typography component="span" className="size-12_5 ink-soft as-block">{named(name)} <span aria-hidden>{i < stations.length - 1 ? "→" : ""}</span></Typography>
          <Typography component="span" className="weight-650 one-line">{headline}</Typography>
        </Box>
      ))}
    </Box>
    </Box>
  );
}
