import { Box, Typography, useTheme } from "@mui/material";
import { useRef, useState, type PointerEvent } from "react";
import type { BrightPatch } from "../api/client";
import { usePrefs } from "../look/prefs";
import { say } from "../look/units";
import { capital } from "../look/words";
import { named } from "../look/names";

/** The tray or the water from above, as bright as the core traced it; a ring marks a pot, squares what lies on it. Amber only, so that dark means dark to every eye. */
const TRAY_PX = 128;
/** Cells end on whole pixels, or seams show between them. */
export const inWholeCells = (px: number, cells: number) => Math.max(1, Math.round(px / cells)) * cells;
export const [TRAY, AMBER, RING] = ["#171512", "#F0A030", "#FAF6EC"]; // a tray is black by day and at dusk

interface Props {
  patch: BrightPatch;
  stale: boolean;
  onPlace: (spot: BrightPatch["spots"][number], across: number, up: number) => void;
}

export function PatchMap({ patch, stale, onPlace }: Props) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const { width_m: width, length_m: length, standing_m: standing } = patch;
  const svg = useRef<SVGSVGElement>(null);
  const moved = useRef(false);
  const [held, setHeld] = useState<{ spot: BrightPatch["spots"][number]; across: number; up: number; laid: boolean } | null>(null);
  // What was laid stays where it was laid until its light has come: back at its old place it would look refused.
  const [waited, setWaited] = useState(stale);
  if (waited !== stale) {
    setWaited(stale);
    if (!stale && held?.laid) setHeld(null);
  }
  const placeOf = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const kept = (share: number) => Math.round(Math.min(Math.max(share, 0.05), 0.95) * 100) / 100;
    return { across: kept((e.clientX - box.left) / box.width), up: kept(1 - (e.clientY - box.top) / box.height) };
  };
  // Where it is let go counts, not the last move that was drawn: a slow screen draws few of them.
  const drop = (e: PointerEvent) => {
    if (!held || held.laid) return;
    const at = placeOf(e);
    if (moved.current) onPlace(held.spot, at.across, at.up);
    setHeld(moved.current ? { ...held, ...at, laid: true } : null);
    moved.current = false;
  };
  const cells = patch.suns.length;
  const top = Math.max(patch.peak_suns, 1);
  return (
    <Box className="flex gap-2 items-center mt-1">
      <svg
        ref={svg} viewBox={`0 0 ${width} ${length}`} width={inWholeCells(TRAY_PX, patch.suns.length)} height={inWholeCells(Math.min((TRAY_PX * length) / width, 170), patch.suns.length)} preserveAspectRatio="none" role="img" aria-label={`bright patch on the ${named(patch.floor)}`} style={{ flex: "none", touchAction: "none", opacity: stale ? 0.6 : 1 }}
        onPointerMove={(e) => { if (!held || held.laid) return; moved.current = true; setHeld({ ...held, ...placeOf(e) }); }}
        onPointerUp={drop}
      >
        <rect width={width} height={length} fill={TRAY} />
        {patch.suns.map((row, j) =>
          row.map((sun, i) => (
            <rect
              key={`${i}-${j}`} x={(i * width) / cells} y={length - ((j + 1) * length) / cells} width={width / cells} height={length / cells} shapeRendering="crispEdges"
              fill={AMBER} opacity={Math.min(sun / top, 1)}
            />
          )),
        )}
        {standing !== null && <circle cx={width / 2} cy={length / 2} r={standing / 2} fill="none" stroke={RING} strokeWidth={width * 0.012} />}
        {patch.spots.map((spot, k) => {
          const [w, h] = [Math.max(spot.wide * width, width * 0.09), Math.max(spot.long * length, width * 0.09)];
          const at = held?.spot.node === spot.node ? held : spot;
          const [x, y] = [at.across * width, (1 - at.up) * length];
          return (
            <g
              key={spot.node} data-spot={spot.node} style={spot.path ? { cursor: "grab" } : undefined}
              onPointerDown={(e) => { if (!spot.path) return; setHeld({ spot, across: spot.across, up: spot.up, laid: false }); svg.current?.setPointerCapture(e.pointerId); }}
            >
              <title>{`${spot.title}: ${spot.suns.toFixed(1)} suns`}</title>
              <rect x={x - w / 2} y={y - h / 2} width={w} height={h} fill="transparent" stroke={RING} strokeWidth={width * 0.012} />
              <text x={x} y={y} fontSize={width * 0.075} fill={RING} stroke={TRAY} strokeWidth={width * 0.012} paintOrder="stroke" textAnchor="middle" dominantBaseline="central">{k + 1}</text>
            </g>
          );
        })}
        <rect width={width} height={length} fill="none" stroke={ink.ink} strokeWidth={width * 0.015} />
      </svg>
      <Box>
        <Typography variant="h2">The bright patch</Typography>
        <Typography variant="body2" aria-live="polite">{say(patch.words, units)}</Typography>
        {patch.spots.length > 0 && <Typography variant="body2">{patch.spots.map((s, k) => `${k + 1} ${s.title}: ${s.suns.toFixed(1)} suns`).join("; ")}</Typography>}
        <Typography variant="body2" className="ink-soft">{capital(named(patch.floor))} from above, its upper edge on top{patch.spots.some((s) => s.path) ? "; drag a square to move what lies there" : ""}; full amber is {top.toFixed(1)} times the beam.</Typography>
      </Box>
    </Box>
  );
}
