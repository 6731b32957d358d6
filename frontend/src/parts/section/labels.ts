/** Words on a drawing: each on paper of its own, near what it is about, clear of the other words, of the edge, and if it can be of lines. */
export type Point = [number, number];
export type Segment = [Point, Point];

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

export interface Wanted {
  key: string;
  w: number;
  h: number;
  /** What it is about, and the way it would rather stand off from there. */
  at: Point;
  toward: Point;
}

export interface Placed extends Box {
  key: string;
  /** Where it had to go too far for its line to be missed. */
  led: boolean;
}

interface Ground {
  /** The sheet's size; words keep this far from its edge. */
  sheet: [number, number];
  edge: number;
  /** What may not be covered: words that stand where they are. */
  taken: Box[];
  /** What had better not be covered: rays, arrows, dimensions. */
  lines: Segment[];
}

const GAP = 3;
const LED_BEYOND = 26;
const [OFF_COST, LINE_COST, TURN_COST] = [1, 26, 10];
const ANGLES = Array.from({ length: 16 }, (_, k) => (k * Math.PI) / 8);
const REACHES = [6, 14, 26, 42, 62, 90, 130, 180];

export const overlaps = (a: Box, b: Box, gap = 0): boolean => a.x < b.x + b.w + gap && b.x < a.x + a.w + gap && a.y < b.y + b.h + gap && b.y < a.y + a.h + gap;

/** Whether a segment passes through a box (slabs, clipped one after the other). */
export function crosses([[x1, y1], [x2, y2]]: Segment, box: Box): boolean {
  let [from, to] = [0, 1];
  for (const [start, run, low, high] of [[x1, x2 - x1, box.x, box.x + box.w], [y1, y2 - y1, box.y, box.y + box.h]] as const) {
    if (Math.abs(run) < 1e-9) {
      if (start < low || start > high) return false;
      continue;
    }
    const [a, b] = [(low - start) / run, (high - start) / run];
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
  }
  return from < to;
}

const clamp = (value: number, low: number, high: number) => Math.min(Math.max(value, low), Math.max(low, high));

function kept(box: Box, { sheet: [wide, high], edge }: Ground): Box {
  return { ...box, x: clamp(box.x, edge, wide - edge - box.w), y: clamp(box.y, edge, high - edge - box.h) };
}

/** Places round what it is about, nearer ones first; then, for a crowded sheet, everywhere. */
function* places(wanted: Wanted, ground: Ground): Generator<{ box: Box; off: number; turn: number }> {
  const own = Math.atan2(wanted.toward[1], wanted.toward[0]);
  for (const reach of REACHES) {
    for (const angle of ANGLES) {
      const [dx, dy] = [Math.cos(own + angle), Math.sin(own + angle)];
      const box = kept({ x: wanted.at[0] + dx * (reach + wanted.w / 2) - wanted.w / 2, y: wanted.at[1] + dy * (reach + wanted.h / 2) - wanted.h / 2, w: wanted.w, h: wanted.h }, ground);
      yield { box, off: reach, turn: Math.min(angle, 2 * Math.PI - angle) };
    }
  }
  const step = Math.max(wanted.h, 10);
  for (let y = ground.edge; y + wanted.h <= ground.sheet[1] - ground.edge; y += step)
    for (let x = ground.edge; x + wanted.w <= ground.sheet[0] - ground.edge; x += step) {
      const off = Math.hypot(x + wanted.w / 2 - wanted.at[0], y + wanted.h / 2 - wanted.at[1]);
      yield { box: { x, y, w: wanted.w, h: wanted.h }, off: off + REACHES.at(-1)!, turn: 0 };
    }
}

function best(wanted: Wanted, others: Box[], ground: Ground): Placed | null {
  let [found, least] = [null as Placed | null, Infinity];
  for (const { box, off, turn } of places(wanted, ground)) {
    const far = OFF_COST * off + TURN_COST * turn;
    if (far >= least) continue;
    if (others.some((other) => overlaps(box, other, GAP))) continue;
    const cost = far + LINE_COST * ground.lines.filter((line) => crosses(line, box)).length;
    if (cost < least) {
      const away = Math.hypot(Math.max(box.x - wanted.at[0], 0, wanted.at[0] - box.x - box.w), Math.max(box.y - wanted.at[1], 0, wanted.at[1] - box.y - box.h));
      [found, least] = [{ ...box, key: wanted.key, led: away > LED_BEYOND }, cost];
    }
  }
  return found;
}

/** Lay words out one by one, then let each move once more now that all stand; what finds no place at all is left to its title. */
export function placeLabels(wanted: Wanted[], ground: Ground): Placed[] {
  const placed = new Map<string, Placed>();
  for (let round = 0; round < 2; round++)
    for (const one of wanted) {
      placed.delete(one.key);
      const found = best(one, [...ground.taken, ...placed.values()], ground);
      if (found) placed.set(one.key, found);
    }
  return [...placed.values()];
}
