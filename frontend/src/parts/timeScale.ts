import { scaleTime, type ScaleTime } from "d3-scale";

/** The day is the ruler: the strip and every chart below it share these gutters, so hours stand under hours. */
export const GUTTER = { left: 46, right: 14 };

export function timeScale(domain: [number, number], width: number): ScaleTime<number, number> {
  return scaleTime().domain(domain).range([GUTTER.left, Math.max(width - GUTTER.right, GUTTER.left + 1)]);
}

/** Whole hours inside a domain, thinned so that labels do not collide. */
export function hourTicks(domain: [number, number], width: number): number[] {
  const hours = (domain[1] - domain[0]) / 3_600_000;
  const room = Math.max(2, width / 46);
  const step = [1, 2, 3, 4, 6].find((s) => hours / s <= room) ?? 6;
  const first = Math.ceil(domain[0] / 3_600_000) * 3_600_000;
  return Array.from({ length: Math.floor(hours) + 1 }, (_, k) => first + k * step * 3_600_000).filter((t) => t <= domain[1]);
}
