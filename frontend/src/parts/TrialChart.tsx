import { Box, Button, Typography, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { SeriesAnswer, TrialView, Verdict } from "../api/client";
import { buildQuery, seriesQuery } from "../api/queries";
import { useAccentOf } from "../kinds";
import { counted } from "../look/counted";
import { usePrefs } from "../look/prefs";
import { withUnit, countWords } from "../look/units";
import { useDrawn, type Drawn } from "../look/inks";
import { Curves, Legend, type CurveLine, type Dot } from "./Curves";
import { named } from "../look/names";

/**
 * Readings as dots with their doubt (a line where they are many), the control hollow, the twin a line in its band, events as
 * flags, sun at the foot. Drag across to look closer: the server then sends every reading of that stretch.
 */
interface Props {
  trial: TrialView;
  verdict: Verdict | undefined;
  zone: string;
  height: number;
}

const POINTS = 800;
const DOTS_AT_MOST = 300;

export function trialDomain(verdict: Verdict): [number, number] {
  return [Date.parse(verdict.times[0]!), Date.parse(verdict.times.at(-1)!)];
}

export function TrialChart({ trial, verdict, zone, height }: Props) {
  const [stretch, setStretch] = useState<[number, number] | null>(null);
  const series = useQuery(seriesQuery(trial.id, trial.mark, stretch, POINTS));
  const drawnAs = useTrialLooks(trial);
  const colour = (node: string) => drawnAs(node).colour;
  const whole = wholeDomain(series.data, verdict, trial);
  const domain = stretch ?? whole;
  const drawn = (series.data?.channels ?? []).filter((c) => c.quantity === "temperature");
  const twins = twinLines(verdict, trial, drawnAs);
  const { lines, dots } = readingsOf(drawn, colour, useDisturbed(verdict), usePrefs().units);
  const zoom = (from: number, to: number) => setStretch([Math.min(from, to), Math.max(from, to)]);
  const middle = (domain[0] + domain[1]) / 2;
  const half = (domain[1] - domain[0]) / 2;
  const about = drawn.reduce((sum, c) => sum + c.count, 0);
  const shownPoints = drawn.reduce((sum, c) => sum + c.times_ms.length, 0);
  return (
    <Box>
      <Curves
        label="readings beside the twin" domain={domain} zone={zone} lines={[...twins, ...lines]} dots={dots} height={height} onZoom={zoom} stale={series.isPlaceholderData}
        flags={trial.events.map((e) => ({ at: Date.parse(e.time), text: named(e.kind) }))}
        {...(verdict ? { sun: verdict.level_sun_w_m2.map((value, i) => ({ at: Date.parse(verdict.times[i]!), value })) } : {})}
      />
      <Box className="flex wrap between gap-1">
        <Legend lines={[...twins, ...drawn.map((c) => ({ key: `r-${c.channel}`, title: c.is_control ? `${c.title}, control` : c.title, colour: colour(c.node), hollow: c.is_control, dot: true }))]} />
        <Box className="no-print flex gap-0_5 items-center">
          <Button variant="text" onClick={() => zoom(middle - half / 2, middle + half / 2)}>closer</Button>
          <Button variant="text" disabled={!stretch} onClick={() => zoom(Math.max(middle - half * 2, whole[0]), Math.min(middle + half * 2, whole[1]))}>wider</Button>
          <Button variant="text" disabled={!stretch} onClick={() => setStretch(null)}>whole trial</Button>
        </Box>
      </Box>
      {series.data && series.data.far > 0 && <Typography role="note" className="border-left-6-sun pl-1">{counted(series.data.far, "reading")} stamped months from nearly all others and not drawn: is the date right? The verdict says which.</Typography>}
      {about > shownPoints && <Typography variant="body2" className="ink-soft">{countWords(about)} readings, drawn by {countWords(shownPoints)} of them with every extreme kept; look closer to see each.</Typography>}
    </Box>
  );
}

/** How each part that is read is drawn; what is not of the build in soft ink. */
export function useTrialLooks(trial: TrialView): (node: string) => Drawn {
  const { ink } = useTheme();
  const { data: build } = useQuery(buildQuery(trial.build_id));
  const drawn = useDrawn(useAccentOf(build?.spec));
  return (node) => {
    const place = trial.places.find((p) => p.channel.node === node);
    return place ? drawn(place.look) : { colour: ink.soft, width: 1 };
  };
}

function wholeDomain(series: SeriesAnswer | undefined, verdict: Verdict | undefined, trial: TrialView): [number, number] {
  if (verdict) return trialDomain(verdict);
  const start = Date.parse(series?.start ?? trial.started);
  const end = Date.parse(series?.end ?? trial.started);
  return [Math.min(start, Date.parse(trial.started)), Math.max(end, start + 600_000)];
}

function useDisturbed(verdict: Verdict | undefined): Set<string> {
  return new Set((verdict?.channels ?? []).flatMap((c) => c.residuals.filter((r) => r.disturbed).map((r) => `${c.channel}${Date.parse(r.time)}`)));
}

function twinLines(verdict: Verdict | undefined, trial: TrialView, drawnAs: (node: string) => Drawn): CurveLine[] {
  if (!verdict) return [];
  const times = verdict.times.map((t) => Date.parse(t));
  const nodes = trial.channels.map((c) => c.node);
  return verdict.curves.filter((c) => nodes.includes(c.node)).map((c) => ({
    key: c.node, title: `${c.title}, twin`, ...drawnAs(c.node), width: 1.8,
    points: c.temperature_c.map((value, i) => ({ at: times[i]!, value: value ?? null })),
    band: c.low_c.map((low, i) => ({ at: times[i]!, low: low ?? null, high: c.high_c[i] ?? null })),
  }));
}

function readingsOf(
  drawn: SeriesAnswer["channels"], colour: (node: string) => string, disturbed: Set<string>, units: ReturnType<typeof usePrefs>["units"],
): { lines: CurveLine[]; dots: Dot[] } {
  const many = drawn.reduce((sum, c) => sum + c.times_ms.length, 0) > DOTS_AT_MOST;
  if (many) {
    return {
      dots: [],
      lines: drawn.map((c) => ({ key: `r-${c.channel}`, title: c.title, colour: colour(c.node), width: 0.9, points: c.times_ms.map((at, i) => ({ at, value: c.values[i] ?? null })) })),
    };
  }
  const dots = drawn.flatMap((c) =>
    c.times_ms.flatMap((at, i) => {
      const value = c.values[i];
      if (value == null) return [];
      return [{ at, value, doubt: c.doubt, colour: colour(c.node), hollow: c.is_control, faint: disturbed.has(`${c.channel}${at}`), title: `${c.title} ${withUnit(value, "temperature", units)}` }];
    }),
  );
  return { lines: [], dots };
}
