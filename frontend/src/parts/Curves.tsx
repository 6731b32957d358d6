import { Box, useTheme } from "@mui/material";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useId, useState, type PointerEvent } from "react";
import { usePrefs } from "../look/prefs";
import { shown } from "../look/units";
import { GUTTER, hourTicks, tickWords, timeScale } from "./timeScale";
import { useWidth } from "./useWidth";

/** Temperatures over the day's own hours: lines, bands, dots with their doubt, flags, and the lamp's hour. */
export interface CurveLine {
  key: string;
  title: string;
  colour: string;
  width?: number;
  dash?: string;
  points: { at: number; value: number | null }[];
  band?: { at: number; low: number | null; high: number | null }[];
}

export interface Dot {
  at: number;
  value: number;
  doubt: number;
  colour: string;
  hollow?: boolean;
  faint?: boolean;
  title: string;
}

interface Props {
  label: string;
  domain: [number, number];
  zone: string;
  lines: CurveLine[];
  dots?: Dot[];
  flags?: { at: number; text: string }[];
  target?: { value: number; text: string } | null;
  lamp?: number | null;
  sun?: { at: number; value: number }[];
  height?: number;
  stale?: boolean;
  onPick?: (at: number) => void;
  /** A stretch was dragged across. */
  onZoom?: (from: number, to: number) => void;
}

const FOOT = 22;
const SUN_FOOT = 26;

export function Curves({ label, domain, zone, lines, dots = [], flags = [], target, lamp, sun, height = 260, stale, onPick, onZoom }: Props) {
  const plot = useId();
  const [ref, width] = useWidth("hours");
  const { ink } = useTheme();
  const { units } = usePrefs();
  const bottom = height - FOOT - (sun ? SUN_FOOT : 0);
  const values = [
    ...lines.flatMap((l) => [...l.points.map((p) => p.value), ...(l.band ?? []).flatMap((b) => [b.low, b.high])]),
    ...dots.flatMap((d) => [d.value - d.doubt, d.value + d.doubt]),
    target?.value ?? null,
  ].filter((v): v is number => v !== null && Number.isFinite(v));
  const low = Math.min(0, ...values);
  const high = Math.max(20, ...values) * 1.06;
  const x = timeScale(domain, width || 800);
  const y = scaleLinear().domain([low, high]).range([bottom, 10]);
  const inside = <T extends { at: number }>(rows: T[]) => rows.filter((r) => r.at >= domain[0] - 600_000 && r.at <= domain[1] + 600_000);
  const path = line<{ at: number; value: number | null }>().defined((p) => p.value !== null).x((p) => x(p.at)).y((p) => y(p.value!));
  const band = area<{ at: number; low: number | null; high: number | null }>()
    .defined((p) => p.low !== null && p.high !== null).x((p) => x(p.at)).y0((p) => y(p.low!)).y1((p) => y(p.high!));
  const [drag, setDrag] = useState<[number, number] | null>(null);
  const under = (event: PointerEvent<SVGSVGElement>) => x.invert(event.clientX - event.currentTarget.getBoundingClientRect().left).getTime();
  const press = (event: PointerEvent<SVGSVGElement>) => {
    onPick?.(under(event));
    if (onZoom && event.pointerType !== "touch") setDrag([under(event), under(event)]);
  };
  const release = (event: PointerEvent<SVGSVGElement>) => {
    const end = under(event); // the last move may not have been drawn yet
    if (drag && onZoom && Math.abs(x(end) - x(drag[0])) > 12) onZoom(drag[0], end);
    setDrag(null);
  };

  return (
    <Box ref={ref} sx={{ opacity: stale ? 0.55 : 1, width: "100%" }}>
      <svg
        width="100%" height={height} role="img" aria-label={label} onPointerDown={onPick || onZoom ? press : undefined} onPointerMove={drag ? (e) => setDrag([drag[0], under(e)]) : undefined}
        onPointerUp={drag ? release : undefined} style={{ display: "block", cursor: onPick || onZoom ? "crosshair" : "default" }}
      >
        <defs>
          <clipPath id={plot}><rect x={GUTTER.left} y={0} width={Math.max(0, (width || 800) - GUTTER.left - GUTTER.right)} height={height} /></clipPath>
        </defs>
        {y.ticks(5).map((tick) => (
          <g key={tick}>
            <line x1={GUTTER.left} x2={(width || 800) - GUTTER.right} y1={y(tick)} y2={y(tick)} stroke={ink.rule} />
            <text x={GUTTER.left - 6} y={y(tick) + 4} fontSize={11.5} textAnchor="end" fill={ink.soft}>{shown(tick, "temperature", units)}°</text>
          </g>
        ))}
        {hourTicks(domain, width || 800, zone).map((at) => (
          <g key={at}>
            <line x1={x(at)} x2={x(at)} y1={10} y2={bottom} stroke={ink.rule} strokeDasharray="1 5" />
            <text x={x(at)} y={height - 6} fontSize={11.5} textAnchor="middle" fill={ink.soft}>{tickWords(at, domain, zone)}</text>
          </g>
        ))}
        <g clipPath={`url(#${plot})`}>
          {sun && (
            <path
              d={area<{ at: number; value: number }>().x((p) => x(p.at)).y0(bottom + SUN_FOOT).y1((p) => bottom + SUN_FOOT - (p.value / 1100) * (SUN_FOOT - 4))(inside(sun)) ?? ""}
              fill={ink.sun} opacity={0.45}
            />
          )}
          {lines.map((l) => l.band && <path key={`${l.key}-band`} d={band(inside(l.band)) ?? ""} fill={l.colour} opacity={0.16} />)}
          {target && (
            <g>
              <line x1={GUTTER.left} x2={width} y1={y(target.value)} y2={y(target.value)} stroke={ink.ink} strokeDasharray="7 4" />
              <text x={GUTTER.left + 6} y={y(target.value) - 5} fontSize={12} fill={ink.ink}>{target.text}</text>
            </g>
          )}
          {lines.map((l) => (
            <path key={l.key} d={path(inside(l.points)) ?? ""} fill="none" stroke={l.colour} strokeWidth={l.width ?? 2} strokeDasharray={l.dash} />
          ))}
          {flags.map((f) => (
            <g key={`${f.at}${f.text}`}>
              <line x1={x(f.at)} x2={x(f.at)} y1={14} y2={bottom} stroke={ink.stop} strokeDasharray="3 3" />
              <text x={x(f.at) + 4} y={22} fontSize={12} fill={ink.stop}>{f.text}</text>
            </g>
          ))}
          {dots.map((d) => (
            <g key={`${d.title}${d.at}`} opacity={d.faint ? 0.45 : 1}>
              <title>{d.title}</title>
              <line x1={x(d.at)} x2={x(d.at)} y1={y(d.value - d.doubt)} y2={y(d.value + d.doubt)} stroke={d.colour} strokeWidth={1.5} />
              <circle cx={x(d.at)} cy={y(d.value)} r={dots.length > 120 ? 1.6 : 4} fill={d.hollow ? ink.paper : d.colour} stroke={d.colour} strokeWidth={1.5} />
            </g>
          ))}
          {drag && <rect x={Math.min(x(drag[0]), x(drag[1]))} width={Math.abs(x(drag[1]) - x(drag[0]))} y={0} height={bottom} fill={ink.sun} opacity={0.25} />}
          {lamp != null && lamp >= domain[0] && lamp <= domain[1] && (
            <line x1={x(lamp)} x2={x(lamp)} y1={0} y2={bottom} stroke={ink.ink} strokeWidth={1} />
          )}
        </g>
      </svg>
    </Box>
  );
}

export function Legend({ lines }: { lines: { key: string; title: string; colour: string; dash?: string; hollow?: boolean; dot?: boolean }[] }) {
  return (
    <Box component="ul" sx={{ display: "flex", flexWrap: "wrap", columnGap: 2, m: 0, paddingInlineStart: `${GUTTER.left}px`, listStyle: "none" }}>
      {lines.map((l) => (
        <Box component="li" key={l.key} className="flex items-center gap-0_75 size-13">
          <svg width={26} height={10} aria-hidden>
            {l.hollow || l.dot ? <circle cx={13} cy={5} r={4} fill={l.hollow ? "none" : l.colour} stroke={l.colour} strokeWidth={1.5} /> : <line x1={0} x2={26} y1={5} y2={5} stroke={l.colour} strokeWidth={2.5} strokeDasharray={l.dash} />}
          </svg>
          {l.title}
        </Box>
      ))}
    </Box>
  );
}
