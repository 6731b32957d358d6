import { Box, ButtonBase, Typography } from "@mui/material";
import type { KeyboardEvent } from "react";
import type { PatchDay as Day } from "../api/client";
import { clockTime } from "../look/clock";
import { usePrefs } from "../look/prefs";
import { say } from "../look/units";
import { AMBER, inWholeCells, TRAY } from "./PatchMap";

const MAP_PX = 48;

interface Props {
  day: Day;
  shape: number;
  lamp: number;
  zone: string;
  stale: boolean;
  onHour: (at: number) => void;
}

/** The same map small, for every hour of light: the spot wanders over the day. A press moves the lamp there. */
export function PatchDay({ day, shape, lamp, zone, stale, onHour }: Props) {
  const { units } = usePrefs();
  const top = Math.max(...day.hours.map((h) => h.peak_suns), 1);
  const here = day.hours.findIndex((hour) => Math.abs(Date.parse(hour.at) - lamp) <= 1_800_000);
  // One stop for the Tab key, as in a toolbar; arrows walk the hours.
  const step = (event: KeyboardEvent<HTMLElement>) => {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const next = by && [event.currentTarget.previousElementSibling, event.currentTarget.nextElementSibling][by < 0 ? 0 : 1];
    if (next instanceof HTMLElement) { event.preventDefault(); next.focus(); next.click(); }
  };
  return (
    <Box sx={{ mt: 1, opacity: stale ? 0.6 : 1 }}>
      <Typography variant="h3">Through the day</Typography>
      <Typography variant="body2">{say(day.words, units)}</Typography>
      <Box role="group" aria-label="the light hour by hour" className="flex wrap gap-0_5 mt-0_5">
        {day.hours.map((hour, k) => {
          const at = Date.parse(hour.at);
          return (
            <ButtonBase key={hour.at} aria-pressed={k === here} tabIndex={k === Math.max(here, 0) ? 0 : -1} onKeyDown={step} title={`${hour.mean_suns.toFixed(2)} suns in the mean`} onClick={() => onHour(at)} sx={(t) => ({ flexDirection: "column", p: 0.25, border: `2px solid ${k === here ? t.ink.ink : "transparent"}` })}>
              <SmallMap suns={hour.suns} top={top} height={Math.min(MAP_PX * shape, 2 * MAP_PX)} />
              <Typography variant="body2" component="span">{clockTime(at, zone)}</Typography>
            </ButtonBase>
          );
        })}
      </Box>
    </Box>
  );
}

function SmallMap({ suns, top, height }: { suns: number[][]; top: number; height: number }) {
  const count = suns.length;
  return (
    <svg viewBox={`0 0 ${count} ${count}`} width={inWholeCells(MAP_PX, count)} height={inWholeCells(height, count)} preserveAspectRatio="none" aria-hidden="true">
      <rect width={count} height={count} fill={TRAY} />
      {suns.flatMap((row, j) => row.map((sun, i) => (
        <rect key={`${i}-${j}`} x={i} y={count - 1 - j} width={1} height={1} shapeRendering="crispEdges" fill={AMBER} opacity={Math.min(sun / top, 1)} />
      )))}
    </svg>
  );
}
