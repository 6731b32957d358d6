import { describe, expect, it } from "vitest";
import type { Section, SectionDay } from "../../api/client";
import { drawnAt, drawnDay } from "./drawn";

const ray = (x: number, lands = "tray"): Section["rays"][number] => ({ points: [[x, 1], [x, 0]], by_mirror: false, lands_on: lands });
const sheet = { shapes: [], rays: [], arrows: [], dimensions: [], handles: [], sun_toward: null, extent: [[0, 0], [1, 1]] } as unknown as Section;
const at = (minute: number) => new Date(Date.UTC(2025, 5, 12, 10, minute)).toISOString();
const day = (...rays: Section["rays"][number][][]): SectionDay => ({ steps: rays.map((r, k) => ({ at: at(20 * k), rays: r, sheet: k === 0 ? sheet : null })) });
const when = (minute: number) => Date.parse(at(minute));

describe("light between two steps", () => {
  it("lies between theirs where the same rays go the same ways", () => {
    expect(drawnAt(drawnDay(day([ray(0)], [ray(1)])), when(5))!.rays[0]!.points).toEqual([[0.25, 1], [0.25, 0]]);
  });

  it("is that of the nearer where it lands elsewhere, or there are more of them", () => {
    expect(drawnAt(drawnDay(day([ray(0)], [ray(1, "wall")])), when(5))!.rays).toEqual([ray(0)]);
    expect(drawnAt(drawnDay(day([ray(0)], [ray(1), ray(2)])), when(15))!.rays).toEqual([ray(1), ray(2)]);
  });

  it("stays that of the first and the last beyond them, and there is none of an empty day", () => {
    const found = drawnDay(day([ray(0)], [ray(1)]));
    expect(drawnAt(found, when(-60))!.rays).toEqual([ray(0)]);
    expect(drawnAt(found, when(600))!.rays).toEqual([ray(1)]);
    expect(drawnAt(drawnDay({ steps: [] }), when(0))).toBeNull();
  });
});
