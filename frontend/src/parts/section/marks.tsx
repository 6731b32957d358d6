import { textWidth } from "../../look/measure";
import { BODY, type Ink } from "../../look/theme";
import type { Point } from "./labels";

/** Hatches of a drawing: slanting for wood, dotted for foam, wavy for water. */
export function Patterns({ id, unit, ink }: { id: string; unit: number; ink: Ink }) {
  return (
    <defs>
      <pattern id={`${id}-wood`} width={unit * 2} height={unit * 2} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width={unit * 2} height={unit * 2} fill={ink.wood} /><line x1={0} y1={0} x2={0} y2={unit * 2} stroke={ink.ink} strokeWidth={unit * 0.2} />
      </pattern>
      <pattern id={`${id}-foam`} width={unit * 2.4} height={unit * 2.4} patternUnits="userSpaceOnUse">
        <rect width={unit * 2.4} height={unit * 2.4} fill={ink.foam} /><circle cx={unit * 0.7} cy={unit * 0.7} r={unit * 0.22} fill={ink.soft} /><circle cx={unit * 1.9} cy={unit * 1.8} r={unit * 0.22} fill={ink.soft} />
      </pattern>
      <pattern id={`${id}-wavy`} width={unit * 3} height={unit * 1.5} patternUnits="userSpaceOnUse">
        <path d={`M0 ${unit * 0.75}q${unit * 0.75} ${-unit * 0.6} ${unit * 1.5} 0t${unit * 1.5} 0`} fill="none" stroke={ink.water} strokeWidth={unit * 0.25} />
      </pattern>
    </defs>
  );
}

/** Short strokes behind a mirror, all along it; its back lies to the left of the way it is drawn. */
export function MirrorTicks({ outline, unit, colour }: { outline: Point[]; unit: number; colour: string }) {
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

/** Words inside a part, smaller where it is small; ``whole``: not at all where they do not fit. */
export function Within({ outline, words, size, colour, ground, whole = false }: { outline: Point[]; words: string; size: number; colour: string; ground: string; whole?: boolean }) {
  const [xs, ys] = [outline.map((p) => p[0]), outline.map((p) => p[1])];
  const [left, right, top, low] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const fits = Math.min(1, (right - left - 4) / textWidth(words, size, BODY), (low - top) / (size * 1.05));
  if (whole ? fits < 0.9 : fits < 0.4) return null;
  return <text x={(left + right) / 2} y={(top + low) / 2} fontSize={size * Math.min(fits, 1)} fill={colour} stroke={ground} strokeWidth={3} paintOrder="stroke" textAnchor="middle" dominantBaseline="central">{words}</text>;
}
