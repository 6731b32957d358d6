import { Box, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useLater } from "./Later";
import { area, line } from "d3-shape";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import { stripQuery } from "../api/queries";
import { clockTime } from "../look/clock";
import { useDay, useLamp } from "../look/day";
import { usePrefs } from "../look/prefs";
import { withUnit } from "../look/units";
import { hourTicks, timeScale } from "./timeScale";
import { useWidth } from "./useWidth";
import { named } from "../look/names";

/** The sun strip: today's beam and sky on level ground, air as a thin line, and the lamp that sets the hour. */
const HEIGHT = 72;
const FLOOR = 56;
const TOP = 8;
const FULL_SUN = 1100;

export function SunStrip() {
  const { siteId, day, domain, site, setLamp, moveLamp } = useDay();
  const { lamp, isNow } = useLamp();
  const { units } = usePrefs();
  const { ink } = useTheme();
  const strip = useLater(useQuery(stripQuery(siteId, day)).data);
  const [ref, width] = useWidth("hours");
  const held = useRef(false);
  if (!strip || !domain) return <Box sx={{ height: HEIGHT }} />;

  const x = timeScale(domain, width || 800);
  const y = (value: number) => FLOOR - (value / FULL_SUN) * (FLOOR - TOP);
  const rows = strip.times.map((time, i) => ({ at: Date.parse(time), i })).filter((r) => r.at >= domain[0] && r.at <= domain[1]);
  const band = (low: (i: number) => number, high: (i: number) => number) =>
    area<{ at: number; i: number }>().x((r) => x(r.at)).y0((r) => y(low(r.i))).y1((r) => y(high(r.i)))(rows) ?? "";
  const beam = strip.beam_w_m2;
  const sky = strip.sky_w_m2;
  const air = strip.air_c;
  const airLine = air && line<{ at: number; i: number }>().x((r) => x(r.at)).y((r) => FLOOR - 4 - air[r.i]! * 1.1)(rows);
  const tomorrow = line<{ at: number; i: number }>().x((r) => x(r.at)).y((r) => y(strip.tomorrow_total_w_m2[r.i] ?? 0))(rows);
  const nearest = rows.reduce((best, r) => (Math.abs(r.at - lamp) < Math.abs(best.at - lamp) ? r : best), rows[0] ?? { at: 0, i: 0 });
  const sun = Math.round((beam[nearest.i] ?? 0) + (sky[nearest.i] ?? 0));
  const words = [
    clockTime(lamp, site.time_zone),
    width > 500 && withUnit(air[nearest.i] ?? 0, "temperature", units),
    strip.wind_m_s != null && width > 500 && withUnit(strip.wind_m_s, "speed", units),
    lamp < domain[0] || lamp > domain[1] ? named("night") : withUnit(sun, "irradiance", units),
  ].filter(Boolean).join(" · ");

  const pick = (event: PointerEvent<SVGSVGElement>) => {
    const left = event.currentTarget.getBoundingClientRect().left;
    setLamp(x.invert(event.clientX - left).getTime());
  };
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -10, ArrowRight: 10, PageDown: -60, PageUp: 60 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    moveLamp(step);
  };
  const lampX = x(Math.min(Math.max(lamp, domain[0]), domain[1]));
  const lampY = y((beam[nearest.i] ?? 0) + (sky[nearest.i] ?? 0));

  return (
    <Box ref={ref} sx={{ position: "relative", height: HEIGHT, overflow: "hidden" }}>
      <svg
        width="100%" height={HEIGHT} role="slider" tabIndex={0} aria-label="lamp: the chosen hour"
        aria-valuemin={0} aria-valuemax={Math.round((domain[1] - domain[0]) / 60_000)}
        aria-valuenow={Math.round((Math.min(Math.max(lamp, domain[0]), domain[1]) - domain[0]) / 60_000)} aria-valuetext={words} onKeyDown={onKey}
        onPointerDown={(e) => { held.current = true; e.currentTarget.setPointerCapture(e.pointerId); pick(e); }}
        onPointerMove={(e) => held.current && pick(e)} onPointerUp={() => { held.current = false; }}
        style={{ display: "block", cursor: "ew-resize", touchAction: "none" }}
      >
        <path d={band(() => 0, (i) => sky[i] ?? 0)} fill={ink.sky} opacity={0.75} />
        <path d={band((i) => sky[i] ?? 0, (i) => (sky[i] ?? 0) + (beam[i] ?? 0))} fill={ink.sun} opacity={0.55} />
        {tomorrow && <path d={tomorrow} fill="none" stroke={ink.soft} strokeWidth={1} strokeDasharray="2 4" />}
        {airLine && <path d={airLine} fill="none" stroke={ink.ink} strokeWidth={1} />}
        <line x1={x(domain[0])} x2={x(domain[1])} y1={FLOOR} y2={FLOOR} stroke={ink.ink} strokeWidth={1} />
        {hourTicks(domain, width || 800, site.time_zone).map((at) => (
          <g key={at}>
            <line x1={x(at)} x2={x(at)} y1={FLOOR} y2={FLOOR + 4} stroke={ink.ink} />
            <text x={x(at)} y={HEIGHT - 2} fontSize={11} textAnchor="middle" fill={ink.soft}>{clockTime(at, site.time_zone)}</text>
          </g>
        ))}
        <line x1={lampX} x2={lampX} y1={0} y2={FLOOR} stroke={ink.ink} strokeWidth={1} />
        <circle cx={lampX} cy={lampY} r={7} fill={ink.sun} stroke={ink.ink} strokeWidth={1.5} />
        {isNow && <circle cx={lampX} cy={lampY} r={2} fill={ink.ink} />}
      </svg>
      <Box
        aria-hidden
        sx={(t) => ({
          position: "absolute", top: 2, ...(lampX > (width || 800) / 2 ? { left: 50 } : { right: 14 }), fontSize: 13, fontWeight: 600, px: 0.75, borderRadius: 0.5,
          background: t.ink.paper, opacity: 0.94, pointerEvents: "none",
        })}
      >
        {words}
      </Box>
    </Box>
  );
}
