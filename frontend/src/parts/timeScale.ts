import { scaleTime, type ScaleTime } from "d3-scale";
import { clockTime, offsetOf, weekdayDate } from "../look/clock";

/** The day is the ruler: the strip and every chart below it share these gutters, so hours stand under hours. */
export const GUTTER = { left: 46, right: 14 };

export function timeScale(domain: [number, number], width: number): ScaleTime<number, number> {
  return scaleTime().domain(domain).range([GUTTER.left, Math.max(width - GUTTER.right, GUTTER.left + 1)]);
}

/** What stands under a tick: the hour, or the day where several are shown. */
export function tickWords(at: number, domain: [number, number], zone: string): string {
  return domain[1] - domain[0] > 48 * 3_600_000 ? weekdayDate(at, zone) : clockTime(at, zone);
}

/** Round times of the place's own clock inside a domain, thinned so that labels do not collide. */
export function hourTicks(domain: [number, number], width: number, zone: string): number[] {
  const minutes = (domain[1] - domain[0]) / 60_000;
  const room = Math.max(2, width / 58);
  const step = ([1, 2, 5, 15, 30, 60, 120, 180, 240, 360, 720, 1440, 2880, 10080].find((s) => minutes / s <= room) ?? 20160) * 60_000;
  const off = offsetOf(domain[0], zone);
  const first = Math.ceil((domain[0] + off) / step) * step - off;
  return Array.from({ length: Math.floor((domain[1] - domain[0]) / step) + 1 }, (_, k) => first + k * step).filter((t) => t <= domain[1]);
}
