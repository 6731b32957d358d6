import { Box, useTheme } from "@mui/material";
import { useId, useRef, type PointerEvent } from "react";
import type { Section } from "../api/client";
import { usePrefs } from "../look/prefs";
import { withUnit } from "../look/units";
import { SLAB } from "../look/theme";

/** The build cut open, to scale, in ink on paper. Parts are buttons; round grips turn a flap or the tilt. */
interface Props {
  section: Section;
  /** Lines of the ledger, in short, by name. */
  accounts: Record<string, string>;
  chosen: string | null;
  onChoose: (part: string) => void;
  watts: Record<string, number>;
  /** Temperatures of the hour by node, for what is told by its warmth. */
  celsius: Record<string, number>;
  /** Water in what dries, as a share of its weight, by node: told before its warmth. */
  wet: Record<string, { share: number; says: string }>;
  /** Share of the time that fans and pumps run at the hour, by their paths. */
  running: Record<string, number>;
  opening: number;
  stale?: boolean;
  /** Not to be touched, and without words: a picture of what it is. */
  still?: boolean;
  onTurn?: (handle: Section["handles"][number], value: number, done: boolean) => void;
}

type Point = [number, number];
/** Room for labels: some centimetres, and more round what is large, because letters grow with it. */
const marginOf = (size: number) => Math.max(0.13, 0.08 * size);

export function SectionDrawing({ section, accounts, chosen, onChoose, watts, celsius, wet, running, opening, stale, still = false, onTurn }: Props) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const mine = useId();
  const svg = useRef<SVGSVGElement>(null);
  const turning = useRef<string | null>(null);
  const [[left, low], [right, high]] = section.extent as [Point, Point];
  const margin = marginOf(Math.max(right - left, high - low));
  const width = right - left + 2 * margin;
  const height = high - low + 2 * margin;
  const unit = Math.max(width, height * 1.4) / 100;
  const at = ([x, y]: Point): Point => [x - left + margin, high - y + margin];
  const path = (points: number[][], closed: boolean) =>
    points.map((p, i) => `${i ? "L" : "M"}${at(p as Point).map((v) => v.toFixed(4)).join(" ")}`).join("") + (closed ? "Z" : "");

  const fills: Record<string, string> = {
    wall: `url(#${mine}-wood)`, foam: `url(#${mine}-foam)`, glass: ink.raised, mirror: "none", black: ink.ink, water: `url(#${mine}-wavy)`, metal: ink.rule, lining: "none", ground: "none", beyond: "none", matt: ink.raised, "glass-line": "none", pale: ink.foam, strainer: "none", pipe: "none",
  };
  const strokes: Record<string, { colour: string; width: number; dash?: string }> = {
    wall: { colour: ink.ink, width: 0.35 }, foam: { colour: ink.ink, width: 0.35 }, glass: { colour: ink.glass, width: 0.45 },
    mirror: { colour: ink.ink, width: 1.1 }, black: { colour: ink.ink, width: 0.6 }, water: { colour: ink.water, width: 0.3 },
    metal: { colour: ink.ink, width: 0.8 }, lining: { colour: ink.soft, width: 0.5, dash: "1.2 0.8" }, ground: { colour: ink.soft, width: 0.4 }, beyond: { colour: ink.soft, width: 0.35, dash: "0.6 0.6" }, matt: { colour: ink.ink, width: 0.35 }, "glass-line": { colour: ink.glass, width: 0.7 }, pale: { colour: ink.honey, width: 0.6 }, strainer: { colour: ink.ink, width: 0.7, dash: "0.8 0.6" }, pipe: { colour: ink.ink, width: 0.7 },
  };

  const turn = (event: PointerEvent, done: boolean) => {
    const handle = section.handles.find((h) => h.field === turning.current);
    if (!handle || !svg.current || !onTurn) return;
    const box = svg.current.getScreenCTM()!;
    const x = (event.clientX - box.e) / box.a - margin + left;
    const y = high + margin - (event.clientY - box.f) / box.d;
    const pointed = Math.atan2(y - handle.pivot[1]!, x - handle.pivot[0]!);
    const was = Math.atan2(handle.at[1]! - handle.pivot[1]!, handle.at[0]! - handle.pivot[0]!);
    let by = ((pointed - was) * 180) / Math.PI;
    if (by > 180) by -= 360;
    if (by < -180) by += 360;
    const sense = handle.sense;
    const degrees = Math.round(Math.min(Math.max(handle.value + sense * by, handle.low), handle.high));
    onTurn(handle, handle.per_deg === 1 ? degrees : Math.round(degrees * handle.per_deg * 100) / 100, done);
    if (done) turning.current = null;
  };

  return (
    <Box sx={{ opacity: stale ? 0.6 : 1, height: "100%", minHeight: still ? 0 : 260 }}>
      <svg
        ref={svg} viewBox={`0 0 ${width.toFixed(3)} ${height.toFixed(3)}`} width="100%" height="100%" {...(still ? { "aria-hidden": true } : { role: "group", "aria-label": "section drawing" })}
        onPointerMove={(e) => turning.current && turn(e, false)} onPointerUp={(e) => turning.current && turn(e, true)}
        style={{ display: "block", touchAction: "none" }}
      >
        <defs>
          <pattern id={`${mine}-wood`} width={unit * 2} height={unit * 2} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width={unit * 2} height={unit * 2} fill={ink.wood} /><line x1={0} y1={0} x2={0} y2={unit * 2} stroke={ink.ink} strokeWidth={unit * 0.2} />
          </pattern>
          <pattern id={`${mine}-foam`} width={unit * 2.4} height={unit * 2.4} patternUnits="userSpaceOnUse">
            <rect width={unit * 2.4} height={unit * 2.4} fill={ink.foam} /><circle cx={unit * 0.7} cy={unit * 0.7} r={unit * 0.22} fill={ink.soft} /><circle cx={unit * 1.9} cy={unit * 1.8} r={unit * 0.22} fill={ink.soft} />
          </pattern>
          <pattern id={`${mine}-wavy`} width={unit * 3} height={unit * 1.5} patternUnits="userSpaceOnUse">
            <path d={`M0 ${unit * 0.75}q${unit * 0.75} ${-unit * 0.6} ${unit * 1.5} 0t${unit * 1.5} 0`} fill="none" stroke={ink.water} strokeWidth={unit * 0.25} />
          </pattern>
          <marker id={`${mine}-head`} viewBox="0 0 6 6" refX={4} refY={3} markerWidth={2.6} markerHeight={2.6} orient="auto"><path d="M0 0L6 3L0 6z" fill={ink.stop} /></marker>
        </defs>
        {section.shapes.map((shape, i) => {
          const stroke = strokes[shape.ink]!;
          const picked = chosen === shape.part;
          const warm = shape.node ? celsius[shape.node] : undefined;
          const damp = shape.node ? wet[shape.node] : undefined;
          const says = damp !== undefined ? `${damp.says}, ${withUnit(warm ?? 0, "temperature", units)}` : warm !== undefined ? withUnit(warm, "temperature", units) : undefined;
          const state = stateOf(shape.runs, running);
          if (state?.gone) return null;
          return (
            <g key={i} onClick={() => onChoose(shape.part)} style={{ cursor: still ? "inherit" : "pointer" }} data-part={shape.part}>
              {!still && <title>{says === undefined ? `${shape.label}${state ? `, ${state.words}` : ""}` : `${shape.label}, ${says}`}</title>}
              <path
                d={path(shape.outline, shape.closed)} fill={damp !== undefined ? dampTint(damp.share, ink) : warm === undefined ? (state ? (state.on ? ink.sun : ink.paper) : fills[shape.ink]) : tint(warm, ink)} strokeLinejoin="round"
                stroke={picked ? ink.sun : stroke.colour} strokeWidth={unit * (picked ? Math.max(stroke.width, 0.9) : stroke.width)}
                strokeDasharray={stroke.dash?.split(" ").map((d) => Number(d) * unit).join(" ")}
              />
              {shape.ink === "mirror" && <MirrorTicks outline={(shape.outline as Point[]).map(at)} unit={unit} colour={ink.ink} />}
              {warm !== undefined && damp === undefined && <Warmth outline={(shape.outline as Point[]).map(at)} words={withUnit(warm, "temperature", units)} unit={unit} colour={ink.paper} />}
              {state && !still && !shape.runs!.startsWith("!") && <Beside outline={(shape.outline as Point[]).map(at)} words={`${shape.label} ${state.words}`} unit={unit} colour={ink.ink} />}
              {shape.caption && !still && <Caption shape={shape} at={at} unit={unit} colour={shape.ink === "black" ? ink.paper : ink.ink} />}
              {!shape.closed && shape.ink !== "ground" && <path d={path(shape.outline, false)} fill="none" stroke="transparent" strokeWidth={unit * 4} />}
            </g>
          );
        })}
        {section.rays.map((ray, i) => (
          <path
            key={i} d={path(ray.points, false)} fill="none" stroke={ink.sun} strokeWidth={unit * 0.28} pointerEvents="none"
            strokeDasharray={ray.by_mirror ? `${unit * 1.6} ${unit * 0.7}` : undefined}
          />
        ))}
        {section.arrows.map((arrow, i) => {
          const power = watts[arrow.account] ?? 0;
          if (power < 1) return null;
          const [x, y] = at(arrow.at as Point);
          const size = unit * (0.5 + Math.min(power / Math.max(opening, 1), 0.35) * 5);
          const reach = unit * 7;
          const words = `${accounts[arrow.account]} ${withUnit(power, "power", units)}`;
          const half = words.length * unit * 0.72;
          const wordsX = Math.min(Math.max(x + arrow.toward[0]! * reach * 1.9, half), width - half);
          return (
            <g key={i} pointerEvents="none">
              <line x1={x} y1={y} x2={x + arrow.toward[0]! * reach} y2={y - arrow.toward[1]! * reach} stroke={ink.stop} strokeWidth={size} markerEnd={`url(#${mine}-head)`} opacity={0.85} />
              <text x={wordsX} y={y - arrow.toward[1]! * reach * 1.75} fontSize={unit * 2.6} fill={ink.stop} textAnchor="middle" dominantBaseline="middle">
                {words}
              </text>
            </g>
          );
        })}
        {!still && section.dimensions.map((dim) => {
          const [x1, y1] = at(dim.start as Point);
          const [x2, y2] = at(dim.end as Point);
          // The figure stands outside, away from the middle of the drawing.
          const [mx, my] = [(x1 + x2) / 2 - width / 2, (y1 + y2) / 2 - height / 2];
          const away = Math.hypot(mx, my) || 1;
          return (
            <g key={dim.label} pointerEvents="none">
              <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={ink.soft} strokeWidth={unit * 0.2} />
              <text x={(x1 + x2) / 2 + (mx / away) * unit * 3} y={(y1 + y2) / 2 + (my / away) * unit * 4} fontSize={unit * 2.4} fontFamily={SLAB} textAnchor={Math.abs(mx) > 0.25 * away ? (mx > 0 ? "start" : "end") : "middle"} dominantBaseline="middle" fill={ink.soft}>
                {withUnit(dim.value_m, "length", units)}
              </text>
            </g>
          );
        })}
        {onTurn && section.handles.map((handle) => {
          const [x, y] = at(handle.at as Point);
          return (
            <circle
              key={handle.field} cx={x} cy={y} r={unit * 1.7} fill={ink.paper} stroke={ink.sun} strokeWidth={unit * 0.5} style={{ cursor: "grab" }}
              data-handle={handle.field}
              onPointerDown={(e) => { turning.current = handle.field; svg.current?.setPointerCapture(e.pointerId); e.stopPropagation(); }}
            >
              <title>{handle.title}: drag to turn</title>
            </circle>
          );
        })}
      </svg>
    </Box>
  );
}

/** What a build looks like, cut open: nothing in it asks to be touched. */
export function SectionSketch({ section }: { section: Section }) {
  return <SectionDrawing still section={section} accounts={{}} chosen={null} onChoose={() => undefined} watts={{}} celsius={{}} wet={{}} running={{}} opening={0} />;
}

/** Whether what is driven runs at the hour; with "!" before its path, whether it is there while that does not. */
function stateOf(runs: string | undefined, running: Record<string, number>) {
  if (!runs) return undefined;
  const share = running[runs.replace("!", "")] ?? 0;
  if (runs.startsWith("!")) return { on: false, gone: share > 0.5, words: "on" };
  return { on: share > 0.02, gone: false, words: share > 0.98 ? "runs" : share > 0.02 ? `at ${Math.round(100 * share)} %` : "stands" };
}

/** Words under something small. */
function Beside({ outline, words, unit, colour }: { outline: Point[]; words: string; unit: number; colour: string }) {
  const x = outline.reduce((sum, p) => sum + p[0], 0) / outline.length;
  const low = Math.max(...outline.map((p) => p[1]));
  return <text x={x} y={low + unit * 2.6} fontSize={unit * 2.2} textAnchor="middle" fill={colour} pointerEvents="none">{words}</text>;
}

/** A word on a part, small enough to stay inside it. */
function Caption({ shape, at, unit, colour }: { shape: Section["shapes"][number]; at: (p: Point) => Point; unit: number; colour: string }) {
  const points = (shape.outline as Point[]).map(at);
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const wide = Math.max(...xs) - Math.min(...xs);
  const size = Math.min(unit * 2.6, (wide * 1.5) / Math.max(shape.caption!.length, 4));
  return (
    <text x={(Math.min(...xs) + Math.max(...xs)) / 2} y={(Math.min(...ys) + Math.max(...ys)) / 2} fontSize={size} fill={colour} textAnchor="middle" dominantBaseline="middle" pointerEvents="none">
      {shape.caption}
    </text>
  );
}

/** Short strokes behind a mirror, all along it; its back lies to the left of the way it is drawn. */
function MirrorTicks({ outline, unit, colour }: { outline: Point[]; unit: number; colour: string }) {
  const pieces = outline.slice(1).map((end, i) => ({ start: outline[i]!, end, size: Math.hypot(end[0] - outline[i]![0], end[1] - outline[i]![1]) }));
  const whole = pieces.reduce((sum, p) => sum + p.size, 0);
  const count = Math.max(6, Math.min(24, Math.round(whole / (unit * 4))));
  return Array.from({ length: count }, (_, k) => {
    let left = ((k + 0.5) / count) * whole;
    const piece = pieces.find((p) => (left -= p.size) <= 0) ?? pieces.at(-1)!;
    const share = 1 + left / piece.size;
    const along: Point = [(piece.end[0] - piece.start[0]) / piece.size, (piece.end[1] - piece.start[1]) / piece.size];
    const x = piece.start[0] + share * piece.size * along[0];
    const y = piece.start[1] + share * piece.size * along[1];
    return <line key={k} x1={x} y1={y} x2={x + (along[1] + 0.4 * along[0]) * unit * 1.5} y2={y + (-along[0] + 0.4 * along[1]) * unit * 1.5} stroke={colour} strokeWidth={unit * 0.25} />;
  });
}

const COLD_C = 10;
const TEPID_C = 38;
const HOT_C = 65;

/** From the ink of water by plum to rust, as it warms. */
function tint(celsius: number, ink: { water: string; plum: string; rust: string }): string {
  const [low, high, from, to] = celsius < TEPID_C ? [COLD_C, TEPID_C, ink.water, ink.plum] : [TEPID_C, HOT_C, ink.plum, ink.rust];
  const share = Math.min(Math.max((celsius - low) / (high - low), 0), 1);
  return `color-mix(in oklab, ${to} ${Math.round(share * 100)}%, ${from})`;
}

/** From the ink of honey, dry, to that of water, wet through. */
function dampTint(share: number, ink: { water: string; honey: string }): string {
  return `color-mix(in oklab, ${ink.water} ${Math.round(Math.min(Math.max(share, 0), 1) * 100)}%, ${ink.honey})`;
}

/** The temperature written on what is high and wide enough to carry it. */
function Warmth({ outline, words, unit, colour }: { outline: Point[]; words: string; unit: number; colour: string }) {
  const xs = outline.map((p) => p[0]);
  const ys = outline.map((p) => p[1]);
  const [left, right, top, low] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  if (low - top < unit * 2.2 || right - left < unit * 12) return null;
  return <text x={(left + right) / 2} y={(top + low) / 2} fontSize={unit * 2.2} textAnchor="middle" dominantBaseline="central" fill={colour} pointerEvents="none">{words}</text>;
}
