import type { Section, SectionDay } from "../../api/client";

/** The drawing at an instant out of a day of them: light between two steps lies between theirs where the same rays go the same ways. */
type Ray = Section["rays"][number];

export interface DrawnDay {
  at: number[];
  rays: Ray[][];
  sheets: Section[];
}

export function drawnDay(day: SectionDay): DrawnDay {
  let sheet: Section | null = null;
  return { at: day.steps.map((s) => Date.parse(s.at)), rays: day.steps.map((s) => s.rays), sheets: day.steps.map((s) => (sheet = s.sheet ?? sheet)!) };
}

const alike = (a: Ray[], b: Ray[]) => a.length === b.length && a.every((ray, i) => ray.lands_on === b[i]!.lands_on && ray.points.length === b[i]!.points.length);
const between = (a: Ray, b: Ray, share: number): Ray => ({ ...a, points: a.points.map((p, i) => [p[0]! + share * (b.points[i]![0]! - p[0]!), p[1]! + share * (b.points[i]![1]! - p[1]!)] as Ray["points"][number]) });

export function drawnAt(day: DrawnDay, instant: number): Section | null {
  const last = day.at.length - 1;
  if (last < 0) return null;
  const next = day.at.findIndex((at) => at > instant);
  const k = next === -1 ? last : Math.max(next - 1, 0);
  const to = Math.min(k + 1, last);
  const share = to === k ? 0 : Math.min(Math.max((instant - day.at[k]!) / (day.at[to]! - day.at[k]!), 0), 1);
  const [a, b] = [day.rays[k]!, day.rays[to]!];
  const near = share < 0.5 ? k : to;
  const rays = alike(a, b) && day.sheets[k] === day.sheets[to] ? a.map((ray, i) => between(ray, b[i]!, share)) : day.rays[near]!;
  return { ...day.sheets[near]!, rays };
}
