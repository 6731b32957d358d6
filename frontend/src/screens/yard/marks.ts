/** Words beside the marks of a lane: what does not fit is shortened, and what is still too long waits until its mark is pointed at. */
export interface Step {
  at: number;
  time: string;
  text: string;
}

export interface Mark {
  x: number;
  steps: Step[];
  /** What stands beside it; nothing where there is no room. */
  label: string | null;
  /** Where the label begins or, with ``end``, where it ends. */
  labelX: number;
  anchor: "start" | "end";
}

/** Marks nearer than this are one: a finger tells no more apart. */
export const APART_PX = 24;
const GAP_PX = 8;
const BESIDE_PX = 7;

/** The few ways to say a step, from all of it to its hour alone. */
export function waysToSay(steps: Step[]): string[] {
  const [first] = steps;
  const more = steps.length > 1 ? ` +${steps.length - 1}` : "";
  const words = first!.text.split(" ");
  const shorter = [6, 4, 3, 2].filter((n) => n < words.length).map((n) => `${first!.time} ${words.slice(0, n).join(" ").replace(/[,;:]$/, "")} …${more}`);
  return [`${first!.time} ${first!.text}${more}`, ...shorter, `${first!.time}${more}`];
}

/** Lay the marks of a lane out from left to right; no two labels ever share a pixel. */
export function layMarks(steps: Step[], x: (at: number) => number, edges: [number, number], measure: (text: string) => number): Mark[] {
  const groups: { x: number; steps: Step[] }[] = [];
  for (const step of [...steps].sort((a, b) => a.at - b.at)) {
    const last = groups.at(-1);
    if (last && x(step.at) - last.x < APART_PX) last.steps.push(step);
    else groups.push({ x: x(step.at), steps: [step] });
  }
  let taken = edges[0];
  return groups.map((group, i) => {
    const ways = waysToSay(group.steps);
    const left = group.x + BESIDE_PX;
    const right = i + 1 < groups.length ? groups[i + 1]!.x - BESIDE_PX - GAP_PX : edges[1];
    const after = ways.find((words) => left >= taken && left + measure(words) <= right);
    if (after !== undefined) {
      taken = left + measure(after) + GAP_PX;
      return { ...group, label: after, labelX: left, anchor: "start" };
    }
    const before = ways.find((words) => group.x - BESIDE_PX - measure(words) >= taken);
    taken = Math.max(taken, group.x + BESIDE_PX);
    return { ...group, label: before ?? null, labelX: group.x - BESIDE_PX, anchor: "end" };
  });
}
