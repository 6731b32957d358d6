import { Box, useTheme } from "@mui/material";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { shortDateWords } from "../look/clock";
import { GUTTER, hourTicks, timeScale } from "./timeScale";
import { useWidth } from "./useWidth";

/** A charge over its weeks: the sun of each day, the chamber's daily peaks and lows, the moisture of each group with the same boards outside. */
export interface ChargeLine {
  title: string;
  mean: (number | null)[];
  outside: (number | null)[];
  target: number;
  done: number | null;
}

interface Day {
  at: number;
  sun: number;
  peak: number;
  low: number;
  says: string;
}

interface Props {
  label: string;
  times: number[];
  groups: ChargeLine[];
  days: Day[];
  /** A base temperature in the user's unit. */
  warmth: (celsius: number) => string;
  zone: string;
  picked: number;
  onPick: (index: number) => void;
}

const SUN = { top: 4, high: 26 };
const PEAKS = { top: 36, high: 74 };
const WOOD = { top: 122, high: 190 };
const FOOT = 22;
const HEIGHT = WOOD.top + WOOD.high + FOOT;
const MOST_SUN = 8.5;
const COLD_C = 0;

export function ChargeChart({ label, times, groups, days, warmth, zone, picked, onPick }: Props) {
  const [ref, width] = useWidth();
  const { ink } = useTheme();
  const wide = width || 700;
  const domain: [number, number] = [times[0]!, times.at(-1)!];
  const x = timeScale(domain, wide);
  const bottom = WOOD.top + WOOD.high;
  const every = groups.flatMap((g) => [...g.mean, ...g.outside]).filter((v): v is number => v !== null);
  const y = scaleLinear().domain([0, Math.max(...every, 0.2)]).nice(5).range([bottom, WOOD.top]);
  const hot = scaleLinear().domain([COLD_C, Math.max(...days.map((d) => d.peak), 40)]).nice(3).range([PEAKS.top + PEAKS.high, PEAKS.top]);
  const inks = [ink.water, ink.rust, ink.plum, ink.twin, ink.ink, ink.honey];
  const path = line<number | null>().defined((v) => v !== null).x((_, i) => x(times[i]!)).y((v) => y(v!));
  const day = days.length > 1 ? x(days[1]!.at) - x(days[0]!.at) : 10;
  const drawn = groups.map((g, k) => ({ ...g, colour: inks[k % inks.length]! }));
  const pick = (clientX: number, box: DOMRect) => {
    const at = x.invert(((clientX - box.left) / box.width) * wide).getTime();
    const nearest = times.reduce((best, t, i) => (Math.abs(t - at) < Math.abs(times[best]! - at) ? i : best), 0);
    onPick(nearest);
  };
  return (
    <Box ref={ref} sx={{ width: "100%" }}>
      <svg
        width="100%" viewBox={`0 0 ${wide} ${HEIGHT}`} height={HEIGHT} role="img" aria-label={label} style={{ display: "block", cursor: "crosshair", touchAction: "pan-y" }}
        onPointerMove={(e) => pick(e.clientX, e.currentTarget.getBoundingClientRect())} onPointerDown={(e) => pick(e.clientX, e.currentTarget.getBoundingClientRect())}
      >
        {days.map((d) => (
          <g key={d.at}>
            <rect x={x(d.at) + day * 0.1} width={Math.max(day * 0.8, 1)} y={SUN.top + SUN.high * (1 - Math.min(d.sun / MOST_SUN, 1))} height={SUN.high * Math.min(d.sun / MOST_SUN, 1)} fill={ink.sun}><title>{d.says}</title></rect>
            <line x1={x(d.at) + day / 2} x2={x(d.at) + day / 2} y1={hot(d.low)} y2={hot(d.peak)} stroke={ink.rust} strokeWidth={Math.max(Math.min(day * 0.5, 7), 1)} opacity={0.75}><title>{d.says}</title></line>
          </g>
        ))}
        {hot.ticks(3).map((tick) => (
          <g key={tick}>
            <line x1={GUTTER.left} x2={wide - GUTTER.right} y1={hot(tick)} y2={hot(tick)} stroke={ink.rule} strokeDasharray="1 5" />
            <text x={GUTTER.left - 6} y={hot(tick) + 4} fontSize={11} textAnchor="end" fill={ink.soft}>{warmth(tick)}</text>
          </g>
        ))}
        {y.ticks(5).map((tick) => (
          <g key={tick}>
            <line x1={GUTTER.left} x2={wide - GUTTER.right} y1={y(tick)} y2={y(tick)} stroke={ink.rule} />
            <text x={GUTTER.left - 6} y={y(tick) + 4} fontSize={11.5} textAnchor="end" fill={ink.soft}>{Math.round(tick * 100)} %</text>
          </g>
        ))}
        {hourTicks(domain, wide * 0.55, zone).map((at) => (
          <g key={at}>
            <line x1={x(at)} x2={x(at)} y1={SUN.top} y2={bottom} stroke={ink.rule} strokeDasharray="1 5" />
            <text x={x(at)} y={HEIGHT - 6} fontSize={11.5} textAnchor="middle" fill={ink.soft}>{shortDateWords(at, zone)}</text>
          </g>
        ))}
        {drawn.map((g) => (
          <g key={g.title}>
            <path d={path(g.outside) ?? ""} fill="none" stroke={g.colour} strokeWidth={1.5} strokeDasharray="2 4" />
            <path d={path(g.mean) ?? ""} fill="none" stroke={g.colour} strokeWidth={2.6} />
            <line x1={wide - GUTTER.right - 26} x2={wide - GUTTER.right} y1={y(g.target)} y2={y(g.target)} stroke={g.colour} strokeWidth={2} strokeDasharray="6 3" />
            {g.done !== null && <path d={`M${x(g.done)} ${bottom}v-16m-4 6l4 -6l4 6`} fill="none" stroke={g.colour} strokeWidth={1.8}><title>{g.title} dry</title></path>}
          </g>
        ))}
        <line x1={x(times[picked]!)} x2={x(times[picked]!)} y1={SUN.top} y2={bottom} stroke={ink.ink} strokeWidth={1.4} />
      </svg>
      <Box component="ul" className="no-marks flex wrap gap-1_5 pl-0 mt-0_5">
        {drawn.map((g) => (
          <Box component="li" key={g.title} className="flex gap-0_5 items-center">
            <svg width={26} height={8} aria-hidden="true"><line x1={0} x2={26} y1={4} y2={4} stroke={g.colour} strokeWidth={2.6} /></svg>{g.title} in the kiln
            <svg width={26} height={8} aria-hidden="true"><line x1={0} x2={26} y1={4} y2={4} stroke={g.colour} strokeWidth={1.5} strokeDasharray="2 4" /></svg>outside
          </Box>
        ))}
        <li className="flex gap-0_5 items-center"><svg width={12} height={12} aria-hidden="true"><rect width={7} height={12} fill={ink.sun} /></svg>sun of the day</li>
        <li className="flex gap-0_5 items-center"><svg width={12} height={12} aria-hidden="true"><line x1={5} x2={5} y1={0} y2={12} stroke={ink.rust} strokeWidth={5} /></svg>chamber, low to peak</li>
      </Box>
    </Box>
  );
}
