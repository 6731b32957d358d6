import { Box, Typography, useTheme } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useRef, useState, type PointerEvent } from "react";
import { answered, client } from "../../api/client";
import { clockTime, compass, monthDayWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { useWidth } from "../../parts/useWidth";
import type { Spot } from "./SpotForm";

/** All round the horizon: draw the skyline with the pointer, drag its points, drag obstacles by their tops. */
const HEIGHT = 260;
const FOOT = 22;
const HEAD = 8;
const STROKE_STEP = 5;
const MOST_ALTITUDE = 89;

type Held = { point: number } | { obstacle: number } | { stroke: Map<number, number> };
type Grip = { obstacle: number; bearing_deg: number; top_deg: number };

export function SkylineDrawing({ spot, onChange }: { spot: Spot; onChange: (change: Partial<Spot>) => void }) {
  const { ink } = useTheme();
  const { siteId, site, day } = useDay();
  const [ref, width] = useWidth();
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<Held | null>(null);
  // What is held as of the last move, drawn or not: a slow screen draws few of them.
  const now = useRef<Held | null>(null);
  const hold = (next: Held | null) => {
    now.current = next;
    setHeld(next);
  };
  const [grip, setGrip] = useState<Grip | null>(null);
  const { data: view } = useQuery({
    queryKey: ["skyline", siteId, spot, day.slice(0, 4), grip],
    queryFn: ({ signal }) => answered(client.POST("/api/sites/{id}/skyline", { params: { path: { id: siteId } }, body: { spot, day, grip }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const wide = width || 900;
  const middle = view?.middle_azimuth_deg ?? 180;
  const off = (azimuth: number) => ((azimuth - middle + 540) % 360) - 180;
  const x = (azimuth: number) => ((off(azimuth) + 180) / 360) * wide;
  const y = (altitude: number) => HEIGHT - FOOT - (altitude / 90) * (HEIGHT - FOOT - HEAD);
  const place = (event: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const azimuth = (middle - 180 + ((event.clientX - box.left) / box.width) * 360 + 720) % 360;
    const altitude = ((HEIGHT - FOOT - ((event.clientY - box.top) / box.height) * HEIGHT) / (HEIGHT - FOOT - HEAD)) * 90;
    return { azimuth_deg: Math.round(azimuth) % 360, altitude_deg: Math.round(Math.min(Math.max(altitude, 0), MOST_ALTITUDE) * 2) / 2 };
  };
  const take = (event: PointerEvent, what: Held) => {
    event.stopPropagation();
    svg.current!.setPointerCapture(event.pointerId);
    hold(what);
  };
  const move = (event: PointerEvent) => {
    const held = now.current;
    if (!held) return;
    const at = place(event);
    if ("point" in held) onChange({ horizon: spot.horizon.map((p, i) => (i === held.point ? at : p)) });
    else if ("obstacle" in held) setGrip({ obstacle: held.obstacle, bearing_deg: at.azimuth_deg, top_deg: at.altitude_deg });
    else hold({ stroke: new Map([...held.stroke, [(Math.round(at.azimuth_deg / STROKE_STEP) * STROKE_STEP) % 360, at.altitude_deg]]) });
  };
  const drop = (event: PointerEvent) => {
    const held = now.current;
    if (held && "stroke" in held) {
      const drawn = [...held.stroke].map(([azimuth_deg, altitude_deg]) => ({ azimuth_deg, altitude_deg }));
      const spans = drawn.map((p) => off(p.azimuth_deg));
      const [left, right] = [Math.min(...spans), Math.max(...spans)];
      const rest = spot.horizon.filter((p) => off(p.azimuth_deg) < left || off(p.azimuth_deg) > right);
      onChange({ horizon: [...rest, ...drawn].sort((a, b) => a.azimuth_deg - b.azimuth_deg) });
    }
    if (held && "obstacle" in held && grip) {
      // The core says how high a thing is whose top stands there; what it said last may still be on its way.
      const at = place(event);
      const letGo = { obstacle: held.obstacle, bearing_deg: at.azimuth_deg, top_deg: at.altitude_deg };
      void answered(client.POST("/api/sites/{id}/skyline", { params: { path: { id: siteId } }, body: { spot, day, grip: letGo } })).then((next) => {
        onChange({ obstacles: next.spot.obstacles });
        setGrip(null);
      });
    }
    hold(null);
  };
  const sweep = Array.from({ length: 361 }, (_, k) => (middle - 180 + k + 720) % 360);
  const line = view && sweep.map((a, k) => `${k ? "L" : "M"}${((k / 360) * wide).toFixed(1)} ${y(view.line_deg[Math.round(a) % 360] ?? 0).toFixed(1)}`).join("");
  const stroke = held && "stroke" in held ? [...held.stroke].sort((a, b) => off(a[0]) - off(b[0])) : [];
  return (
    <Box ref={ref}>
      <svg
        ref={svg} viewBox={`0 0 ${wide} ${HEIGHT}`} width="100%" height={HEIGHT} role="img" aria-label={`skyline of ${spot.name} with the sun's paths`}
        style={{ display: "block", touchAction: "none", cursor: "crosshair" }}
        onPointerDown={(e) => take(e, { stroke: new Map([[place(e).azimuth_deg, place(e).altitude_deg]]) })} onPointerMove={move} onPointerUp={drop}
      >
        {[15, 30, 45, 60, 75].map((a) => (
          <g key={a}>
            <line x1={0} x2={wide} y1={y(a)} y2={y(a)} stroke={ink.rule} />
            <text x={4} y={y(a) - 3} fontSize={11} fill={ink.soft}>{a}°</text>
          </g>
        ))}
        {line && <path d={`${line}L${wide} ${HEIGHT}L0 ${HEIGHT}Z`} fill={ink.ink} opacity={0.86} />}
        {view?.tracks.map((track) => (
          <g key={track.day}>
            <path d={track.azimuth_deg.map((a, k) => `${k && Math.abs(off(a) - off(track.azimuth_deg[k - 1]!)) < 180 ? "L" : "M"}${x(a).toFixed(1)} ${y(track.altitude_deg[k]!).toFixed(1)}`).join("")} fill="none" stroke={ink.sun} strokeWidth={2.2} />
            {track.time.map((t, k) => (clockTime(t, site.time_zone).endsWith(":05") ? <circle key={t} cx={x(track.azimuth_deg[k]!)} cy={y(track.altitude_deg[k]!)} r={3} fill={ink.sun} stroke={ink.ink}><title>{clockTime(t, site.time_zone)}</title></circle> : null))}
          </g>
        ))}
        {view?.outlines.map((outline, i) => {
          const top = { cx: x(spot.obstacles[i]?.bearing_deg ?? 0), cy: y(outline.top_deg) };
          const at = held && "obstacle" in held && held.obstacle === i && grip ? { cx: x(grip.bearing_deg), cy: y(grip.top_deg) } : top;
          return (
            <g key={i}>
              <text x={at.cx} y={at.cy - 12} fontSize={12} textAnchor="middle" fill={ink.ink}>{spot.obstacles[i]?.name}</text>
              <rect x={at.cx - 8} y={at.cy - 8} width={16} height={16} fill={ink.paper} stroke={ink.sun} strokeWidth={2.5} style={{ cursor: "grab" }} data-obstacle={i} onPointerDown={(e) => take(e, { obstacle: i })}><title>{spot.obstacles[i]?.name}: drag its top</title></rect>
            </g>
          );
        })}
        {spot.horizon.map((p, i) => (
          <circle key={i} cx={x(p.azimuth_deg)} cy={y(p.altitude_deg)} r={8} fill={ink.paper} stroke={ink.sun} strokeWidth={2.5} style={{ cursor: "grab" }} data-point={i} onPointerDown={(e) => take(e, { point: i })}><title>skyline point: drag</title></circle>
        ))}
        {stroke.length > 1 && <path d={stroke.map(([a, h], k) => `${k ? "L" : "M"}${x(a).toFixed(1)} ${y(h).toFixed(1)}`).join("")} fill="none" stroke={ink.stop} strokeWidth={3} />}
        {[-135, -90, -45, 0, 45, 90, 135].map((by) => (middle + by + 360) % 360).map((a) => (
          <text key={a} x={x(a)} y={HEIGHT - 6} fontSize={13} textAnchor="middle" fill={ink.paper} fontWeight={700} pointerEvents="none">{compass(a)}</text>
        ))}
      </svg>
      <Typography variant="body2" className="ink-soft mb-1">
        Draw the skyline over the sky, or drag a round point; drag a tree or a wall by its square top.{" "}
        {view && `Sun by the day, in the open and hidden: ${view.tracks.map((t) => `${monthDayWords(t.day)} ${t.open_hours} h and ${t.hidden_hours} h`).join(", ")}.`}
      </Typography>
    </Box>
  );
}
