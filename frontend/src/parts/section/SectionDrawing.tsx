import { Box, useTheme } from "@mui/material";
import { useEffect, useId, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Kind, Section } from "../../api/client";
import { accountFill, AccountPatterns } from "../../look/hatches";
import { textWidth, useFonts } from "../../look/measure";
import { usePrefs } from "../../look/prefs";
import { BODY, SLAB } from "../../look/theme";
import { withUnit, type Units } from "../../look/units";
import { useWidth } from "../useWidth";
import { placeLabels, type Box as Frame, type Placed, type Point, type Segment, type Wanted } from "./labels";
import { MirrorTicks, Patterns, Within } from "./marks";
import { dampTint, fillsOf, groundOf, onPaint, paintOf, strokesOf, tint } from "./paints";

/** The build cut open, to scale, in ink on paper. Parts are buttons; round grips turn a flap or the tilt, by hand or by the arrow keys. */
interface Props {
  section: Section;
  accounts: Kind["accounts"];
  accent: Kind["accent"];
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
  /** While the lamp is drawn along, words keep their places. */
  moves?: boolean;
  onTurn?: (handle: Section["handles"][number], value: number, done: boolean) => void;
}

/** How metres lie on a sheet: where a point is, and the unit in which strokes and letters are counted. */
interface Sheet {
  at: (p: Point) => Point;
  back: (p: Point) => Point;
  unit: number;
  wide: number;
  high: number;
}

const path = (points: number[][], sheet: Sheet, closed: boolean) => points.map((p, i) => `${i ? "L" : "M"}${sheet.at(p as Point).map((v) => v.toFixed(3)).join(" ")}`).join("") + (closed ? "Z" : "");

/** Room for words round the drawing, px. */
const [MARGIN, NARROW_MARGIN, NARROW] = [64, 46, 560];
const LETTERS_PX = 13;
const HIGHEST_PX = 540;
const REACH_PX = 30;

/** As wide as its column, as high as that makes it, within the window's height. */
function sheetOf(section: Section, wide: number): Sheet {
  const [[left, low], [right, high]] = section.extent as [Point, Point];
  const margin = wide < NARROW ? NARROW_MARGIN : MARGIN;
  const [across, up] = [Math.max(right - left, 0.01), Math.max(high - low, 0.01)];
  const most = Math.min(HIGHEST_PX, 0.62 * (typeof window === "undefined" ? 800 : window.innerHeight));
  const scale = Math.min((wide - 2 * margin) / across, (Math.max(most, 300) - 2 * margin) / up);
  const tall = Math.round(up * scale + 2 * margin);
  const aside = (wide - across * scale) / 2;
  return {
    at: ([x, y]) => [aside + (x - left) * scale, margin + (high - y) * scale],
    back: ([x, y]) => [left + (x - aside) / scale, high - (y - margin) / scale],
    unit: Math.min(Math.max(wide / 110, 3.4), 6.5), wide, high: tall,
  };
}

/** Whether what is driven runs at the hour; with "!" before its path, whether it is there while that does not. */
function stateOf(runs: string | undefined, running: Record<string, number>) {
  if (!runs) return undefined;
  const share = running[runs.replace("!", "")] ?? 0;
  if (runs.startsWith("!")) return { on: false, gone: share > 0.5, words: "on" };
  return { on: share > 0.02, gone: false, words: share > 0.98 ? "runs" : share > 0.02 ? `at ${Math.round(100 * share)} %` : "stands" };
}

const middleOf = (points: Point[]): Point => [points.reduce((s, p) => s + p[0], 0) / points.length, points.reduce((s, p) => s + p[1], 0) / points.length];

export function SectionDrawing(props: Props) {
  const { section, stale } = props;
  const [ref, width] = useWidth();
  const sheet = useMemo(() => sheetOf(section, Math.max(width, 240)), [section, width]);
  return (
    <Box ref={ref} className={stale ? "stale" : undefined} sx={{ minHeight: 120 }}>
      {width > 0 && <Drawing {...props} sheet={sheet} />}
    </Box>
  );
}

function Drawing({ section, accounts, accent, chosen, onChoose, watts, celsius, wet, running, opening, moves = false, onTurn, sheet }: Props & { sheet: Sheet }) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const mine = useId();
  const svg = useRef<SVGSVGElement>(null);
  const { unit, at } = sheet;
  const fills = fillsOf(ink, mine);
  const strokes = strokesOf(ink);
  const grip = useGrip(section, sheet, svg, onTurn);
  const heat = useMemo(
    () =>
      section.arrows.flatMap((arrow, i) => {
        const power = watts[arrow.account] ?? 0;
        const account = accounts.find((a) => a.name === arrow.account);
        if (power < 1 || !account) return [];
        const from = at(arrow.at as Point);
        const [dx, dy] = [arrow.toward[0]!, -arrow.toward[1]!];
        const thick = 4 + 26 * Math.min(power / Math.max(opening, 1), 0.4);
        return [{ key: `${arrow.account}${i}`, account, power, from, dx, dy, thick, tip: [from[0] + dx * (REACH_PX + thick / 2), from[1] + dy * (REACH_PX + thick / 2)] as Point }];
      }),
    [section.arrows, watts, accounts, opening, at],
  );
  const labels = useLabels(section, sheet, heat, running, celsius, wet, moves);
  const parts = [...new Set(section.shapes.map((s) => s.part))];
  const stop = parts.includes(chosen ?? "") ? chosen : parts[0];
  const onKey = (event: KeyboardEvent<SVGSVGElement>) => {
    const here = (event.target as Element).closest("[data-part][tabindex]");
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (!here || by === undefined) return;
    event.preventDefault();
    const all = [...event.currentTarget.querySelectorAll<SVGGElement>("[data-part][tabindex]")];
    all[(all.indexOf(here as SVGGElement) + by + all.length) % all.length]!.focus();
  };
  const seen = new Set<string>();

  return (
    <svg
      ref={svg} viewBox={`0 0 ${sheet.wide} ${sheet.high}`} width="100%" height={sheet.high} role="group" aria-label="section drawing" onKeyDown={onKey} onPointerMove={grip.move} onPointerUp={grip.up}
      className="section as-block" style={{ touchAction: grip.any ? "none" : "pan-y" }}
    >
      <Patterns id={mine} unit={unit} ink={ink} />
      <AccountPatterns id={`${mine}-of`} accounts={accounts} accent={accent} />
      {section.shapes.map((shape, i) => {
        const stroke = strokes[shape.ink];
        const picked = chosen === shape.part;
        const warm = shape.node ? celsius[shape.node] : undefined;
        const damp = shape.node ? wet[shape.node] : undefined;
        const says = damp !== undefined ? `${damp.says}, ${withUnit(warm ?? 0, "temperature", units)}` : warm !== undefined ? withUnit(warm, "temperature", units) : undefined;
        const state = stateOf(shape.runs, running);
        if (state?.gone) return null;
        const first = !seen.has(shape.part);
        seen.add(shape.part);
        const outline = (shape.outline as Point[]).map(at);
        const label = says === undefined ? `${shape.label}${state ? `, ${state.words}` : ""}` : `${shape.label}, ${says}`;
        return (
          <g
            key={i} onClick={() => onChoose(shape.part)} data-part={shape.part} className="part"
            {...(first ? { role: "button", tabIndex: shape.part === stop ? 0 : -1, "aria-label": `${label}, on the drawing`, "aria-pressed": picked, onKeyDown: (e: KeyboardEvent) => { if (e.key === "Enter" || e.key === " ") { e.preventDefault(); onChoose(shape.part); } } } : {})}
          >
            <title>{label}</title>
            <path
              d={path(shape.outline, sheet, shape.closed)} fill={damp !== undefined ? dampTint(damp.share, ink) : warm === undefined ? (state ? (state.on ? ink.sun : ink.paper) : (paintOf(shape) ?? fills[shape.ink])) : tint(warm, ink)} strokeLinejoin="round"
              stroke={picked ? ink.sun : stroke.colour} strokeWidth={unit * (picked ? Math.max(stroke.width, 0.9) : stroke.width)} strokeDasharray={stroke.dash?.split(" ").map((d) => Number(d) * unit).join(" ")}
            />
            {shape.ink === "mirror" && <MirrorTicks outline={outline} unit={unit} colour={ink.ink} />}
            {!shape.closed && shape.ink !== "ground" && <path d={path(shape.outline, sheet, false)} fill="none" stroke="transparent" strokeWidth={Math.max(unit * 4, 24)} />}
          </g>
        );
      })}
      {section.rays.map((ray, i) => (
        <path key={i} d={path(ray.points, sheet, false)} fill="none" stroke={ink.sun} strokeWidth={unit * 0.28} pointerEvents="none" strokeDasharray={ray.by_mirror ? `${unit * 1.6} ${unit * 0.7}` : undefined} />
      ))}
      {section.shapes.map((shape, i) => {
        const warm = shape.node && !(shape.node in wet) ? celsius[shape.node] : undefined;
        const outline = (shape.outline as Point[]).map(at);
        return (
          <g key={i} pointerEvents="none">
            {warm !== undefined && <Within outline={outline} words={withUnit(warm, "temperature", units)} size={12} colour={ink.paper} ground={tint(warm, ink)} whole />}
            {shape.caption && <Within outline={outline} words={shape.caption} size={LETTERS_PX} colour={onPaint(shape, ink)} ground={groundOf(shape, ink)} />}
          </g>
        );
      })}
      {section.dimensions.map((dim) => <Measured key={dim.label} start={at(dim.start as Point)} end={at(dim.end as Point)} colour={ink.soft} paper={ink.paper} />)}
      {heat.map((h) => <HeatArrow {...h} key={h.key} fill={accountFill(`${mine}-of`, h.account.name)} line={ink.ink} paper={ink.paper} />)}
      {labels.map((l) => (
        <g key={l.key} pointerEvents="none" data-label={l.words}>
          {l.led && <line x1={l.about[0]} y1={l.about[1]} x2={l.x + l.w / 2} y2={l.y + l.h / 2} stroke={ink.soft} strokeWidth={1} />}
          <rect x={l.x} y={l.y} width={l.w} height={l.h} rx={2} fill={ink.paper} />
          <text x={l.x + l.w / 2} y={l.y + l.h / 2} fontSize={LETTERS_PX} fontFamily={l.measured ? SLAB : BODY} fontWeight={l.measured ? 400 : 600} textAnchor="middle" dominantBaseline="central" fill={l.measured ? ink.soft : ink.ink}>{l.words}</text>
        </g>
      ))}
      {onTurn && section.handles.map((handle) => {
        const [x, y] = at(handle.at as Point);
        return (
          <circle
            key={handle.field} cx={x} cy={y} r={Math.max(unit * 1.7, 9)} fill={ink.paper} stroke={ink.sun} strokeWidth={3} className="grip" data-handle={handle.field} role="slider" tabIndex={0}
            aria-label={handle.title} aria-valuemin={handle.low} aria-valuemax={handle.high} aria-valuenow={Math.round(handle.value)} onPointerDown={(e) => grip.down(handle, e)} onKeyDown={(e) => grip.key(handle, e)} onBlur={grip.left}
          >
            <title>{handle.title}: drag to turn, or the arrow keys</title>
          </circle>
        );
      })}
    </svg>
  );
}

/** Turning a grip about its pivot by pointer, and degree by degree by key. */
function useGrip(section: Section, sheet: Sheet, svg: React.RefObject<SVGSVGElement | null>, onTurn: Props["onTurn"]) {
  const turning = useRef<string | null>(null);
  // Keys are quicker than the drawing: the next goes on from where the last one went.
  const pressed = useRef(new Map<string, number>());
  useEffect(() => section.handles.forEach((h) => Math.round(h.value) === pressed.current.get(h.field) && pressed.current.delete(h.field)), [section]);
  type Handle = Section["handles"][number];
  const put = (handle: Handle, value: number, done: boolean): number => {
    const degrees = Math.round(Math.min(Math.max(value, handle.low), handle.high));
    onTurn?.(handle, handle.per_deg === 1 ? degrees : Math.round(degrees * handle.per_deg * 100) / 100, done);
    return degrees;
  };
  const turn = (event: PointerEvent, done: boolean) => {
    const handle = section.handles.find((h) => h.field === turning.current);
    if (!handle || !svg.current) return;
    const seen = svg.current.getScreenCTM()!;
    const [x, y] = sheet.back([(event.clientX - seen.e) / seen.a, (event.clientY - seen.f) / seen.d]);
    const pointed = Math.atan2(y - handle.pivot[1]!, x - handle.pivot[0]!);
    const was = Math.atan2(handle.at[1]! - handle.pivot[1]!, handle.at[0]! - handle.pivot[0]!);
    let by = ((pointed - was) * 180) / Math.PI;
    if (by > 180) by -= 360;
    if (by < -180) by += 360;
    put(handle, handle.value + handle.sense * by, done);
    if (done) turning.current = null;
  };
  return {
    any: onTurn !== undefined && section.handles.length > 0,
    down: (handle: Handle, event: PointerEvent) => {
      turning.current = handle.field;
      svg.current?.setPointerCapture(event.pointerId);
      event.stopPropagation();
    },
    move: (event: PointerEvent) => turning.current !== null && turn(event, false),
    up: (event: PointerEvent) => turning.current !== null && turn(event, true),
    key: (handle: Handle, event: KeyboardEvent) => {
      const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 10, PageDown: -10, Home: -Infinity, End: Infinity }[event.key];
      if (by === undefined) return;
      event.preventDefault();
      event.stopPropagation();
      const from = pressed.current.get(handle.field) ?? handle.value;
      pressed.current.set(handle.field, put(handle, from + by, true));
    },
    left: () => pressed.current.clear(),
  };
}

interface Heat {
  key: string;
  account: Kind["accounts"][number];
  power: number;
  from: Point;
  dx: number;
  dy: number;
  thick: number;
  tip: Point;
}

interface Said extends Wanted {
  words: string;
  measured: boolean;
}

/** All words that are not inside a part. */
function wordsOf(section: Section, sheet: Sheet, heat: Heat[], running: Props["running"], units: Units): Said[] {
  const { at } = sheet;
  const said = (key: string, words: string, about: Point, toward: Point, measured = false): Said => ({
    key, words, measured, w: textWidth(words, LETTERS_PX, measured ? SLAB : BODY, measured ? 400 : 600) + 8, h: LETTERS_PX + 5, at: about, toward,
  });
  const driven = section.shapes.flatMap((shape, i) => {
    const state = stateOf(shape.runs, running);
    if (!state || state.gone || shape.runs.startsWith("!")) return [];
    const outline = (shape.outline as Point[]).map(at);
    return [said(`runs${i}`, `${shape.label} ${state.words}`, [middleOf(outline)[0], Math.max(...outline.map((p) => p[1]))], [0, 1])];
  });
  const measured = section.dimensions.map((dim) => {
    const about = middleOf([at(dim.start as Point), at(dim.end as Point)]);
    return said(dim.label, withUnit(dim.value_m, "length", units), about, [about[0] - sheet.wide / 2, about[1] - sheet.high / 2], true);
  });
  return [...heat.map((h) => said(h.key, `${h.account.short} ${withUnit(h.power, "power", units)}`, h.tip, [h.dx, h.dy])), ...driven, ...measured];
}

/** What words may not cover, and what they had better not. */
function groundFor(section: Section, sheet: Sheet, heat: Heat[], celsius: Props["celsius"], wet: Props["wet"]) {
  const { at } = sheet;
  const run = (points: number[][]): Segment[] => points.slice(1).map((p, i) => [at(points[i] as Point), at(p as Point)]);
  const inside: Frame[] = section.shapes.flatMap((shape) => {
    if (!shape.caption && !(shape.node && celsius[shape.node] !== undefined && wet[shape.node] === undefined)) return [];
    const [x, y] = middleOf((shape.outline as Point[]).map(at));
    const w = textWidth(shape.caption || "888 °C", LETTERS_PX, BODY);
    return [{ x: x - w / 2, y: y - 9, w, h: 18 }];
  });
  const grips = section.handles.map((h) => { const [x, y] = at(h.at as Point); return { x: x - 12, y: y - 12, w: 24, h: 24 }; });
  const lines = [
    ...section.rays.flatMap((r) => run(r.points)), ...section.dimensions.flatMap((d) => run([d.start, d.end])), ...heat.map((h): Segment => [h.from, h.tip]),
    ...section.shapes.flatMap((s) => run(s.closed ? [...s.outline, s.outline[0]!] : s.outline)),
  ];
  return { sheet: [sheet.wide, sheet.high] as [number, number], edge: 2, taken: [...inside, ...grips], lines };
}

/** Words where none covers another; while the lamp moves they stay where they stood, and what is new waits until it rests. */
function useLabels(section: Section, sheet: Sheet, heat: Heat[], running: Props["running"], celsius: Props["celsius"], wet: Props["wet"], moves: boolean) {
  const { units } = usePrefs();
  const [stood, setStood] = useState<{ sheet: Sheet; placed: Placed[] } | null>(null);
  const fonts = useFonts();
  // eslint-disable-next-line react-hooks/exhaustive-deps -- letters that come later are wider or narrower
  const words = useMemo(() => wordsOf(section, sheet, heat, running, units), [section, sheet, heat, running, units, fonts]);
  const asked = moves && stood?.sheet === sheet ? null : words;
  const fresh = useMemo(() => asked && placeLabels(asked, groundFor(section, sheet, heat, celsius, wet)), [asked, section, sheet, heat, celsius, wet]);
  if (fresh && stood?.placed !== fresh) setStood({ sheet, placed: fresh });
  const placed = fresh ?? stood!.placed;
  return words.flatMap((said) => {
    const spot = placed.find((p) => p.key === said.key);
    return spot ? [{ ...spot, ...said, about: said.at, x: spot.x, y: spot.y, w: spot.w, h: spot.h }] : [];
  });
}

/** Heat that leaves, as wide as its watts, in the ledger's own colour; it flows unless motion is unwanted. */
function HeatArrow({ from, dx, dy, thick, tip, fill, line, paper }: Heat & { fill: string; line: string; paper: string }) {
  const [half, head] = [thick / 2, thick / 2 + 5];
  const [nx, ny] = [-dy, dx];
  const neck: Point = [tip[0] - dx * (head + 2), tip[1] - dy * (head + 2)];
  const corner = ([x, y]: Point, side: number) => `${(x + nx * side).toFixed(1)} ${(y + ny * side).toFixed(1)}`;
  return (
    <g pointerEvents="none">
      <path d={`M${corner(from, half)}L${corner(neck, half)}L${corner(neck, head)}L${tip[0].toFixed(1)} ${tip[1].toFixed(1)}L${corner(neck, -head)}L${corner(neck, -half)}L${corner(from, -half)}Z`} fill={fill} stroke={line} strokeWidth={1.2} strokeLinejoin="round" />
      <line x1={from[0]} y1={from[1]} x2={neck[0]} y2={neck[1]} stroke={paper} strokeWidth={Math.max(1.5, half / 2)} className="flow" />
    </g>
  );
}

/** A measured distance: its line on paper, so that it shows over whatever it crosses, and its two ends. */
function Measured({ start: [x1, y1], end: [x2, y2], colour, paper }: { start: Point; end: Point; colour: string; paper: string }) {
  const size = Math.hypot(x2 - x1, y2 - y1) || 1;
  const [nx, ny] = [(-(y2 - y1) / size) * 5, ((x2 - x1) / size) * 5];
  const ends = `M${x1 - nx} ${y1 - ny}L${x1 + nx} ${y1 + ny}M${x2 - nx} ${y2 - ny}L${x2 + nx} ${y2 + ny}`;
  return (
    <g pointerEvents="none" fill="none">
      <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={paper} strokeWidth={6} />
      <path d={`M${x1} ${y1}L${x2} ${y2}${ends}`} stroke={colour} strokeWidth={1.2} />
    </g>
  );
}

/** Room round a sketch: some centimetres, and more round what is large. */
const marginOf = (size: number) => Math.max(0.13, 0.08 * size);

/** What a build looks like, cut open: nothing in it asks to be touched. */
export function SectionSketch({ section }: { section: Section }) {
  const { ink } = useTheme();
  const mine = useId();
  const [[left, low], [right, high]] = section.extent as [Point, Point];
  const margin = marginOf(Math.max(right - left, high - low));
  const [wide, tall] = [right - left + 2 * margin, high - low + 2 * margin];
  const unit = Math.max(wide, tall * 1.4) / 100;
  const at = ([x, y]: Point): Point => [x - left + margin, high - y + margin];
  const sheet: Sheet = { at, back: (p) => p, unit, wide, high: tall };
  const fills = fillsOf(ink, mine);
  const strokes = strokesOf(ink);
  return (
    <svg viewBox={`0 0 ${wide.toFixed(3)} ${tall.toFixed(3)}`} width="100%" height="100%" aria-hidden className="as-block">
      <Patterns id={mine} unit={unit} ink={ink} />
      {section.shapes.map((shape, i) => {
        const stroke = strokes[shape.ink];
        return (
          <g key={i}>
            <path d={path(shape.outline, sheet, shape.closed)} fill={paintOf(shape) ?? fills[shape.ink]} strokeLinejoin="round" stroke={stroke.colour} strokeWidth={unit * stroke.width} strokeDasharray={stroke.dash?.split(" ").map((d) => Number(d) * unit).join(" ")} />
            {shape.ink === "mirror" && <MirrorTicks outline={(shape.outline as Point[]).map(at)} unit={unit} colour={ink.ink} />}
          </g>
        );
      })}
      {section.rays.map((ray, i) => <path key={i} d={path(ray.points, sheet, false)} fill="none" stroke={ink.sun} strokeWidth={unit * 0.28} />)}
    </svg>
  );
}
