import { describe, expect, it } from "vitest";
import { crosses, overlaps, placeLabels, type Wanted } from "./labels";

function dice(seed: number) {
  let at = seed;
  return () => (at = (at * 16807) % 2147483647) / 2147483647;
}

describe("words on a drawing", () => {
  it.each([1280, 768, 390])("never share a pixel nor leave a sheet %i px wide, however crowded", (wide) => {
    for (let seed = 1; seed < 60; seed++) {
      const next = dice(seed);
      const sheet: [number, number] = [wide - 20, 300];
      const wanted: Wanted[] = Array.from({ length: 4 + Math.floor(next() * 9) }, (_, k) => ({
        key: String(k), w: 30 + next() * 70, h: 16, at: [next() * sheet[0], next() * sheet[1]], toward: [next() - 0.5, next() - 0.5],
      }));
      const lines = Array.from({ length: 12 }, () => [[next() * sheet[0], 0], [next() * sheet[0], sheet[1]]] as [[number, number], [number, number]]);
      const taken = [{ x: 100, y: 100, w: 60, h: 20 }];
      const placed = placeLabels(wanted, { sheet, edge: 2, taken, lines });
      expect(placed).toHaveLength(wanted.length);
      for (const [i, one] of placed.entries()) {
        expect(one.x).toBeGreaterThanOrEqual(0);
        expect(one.y).toBeGreaterThanOrEqual(0);
        expect(one.x + one.w).toBeLessThanOrEqual(sheet[0]);
        expect(one.y + one.h).toBeLessThanOrEqual(sheet[1]);
        for (const other of [...placed.slice(i + 1), ...taken]) expect(overlaps(one, other)).toBe(false);
      }
    }
  });

  it("stand where they would rather, and off a line that passes there", () => {
    const wanted: Wanted = { key: "a", w: 40, h: 16, at: [200, 100], toward: [1, 0] };
    const free = placeLabels([wanted], { sheet: [400, 200], edge: 2, taken: [], lines: [] })[0]!;
    expect([free.x, free.y]).toEqual([206, 92]);
    const line: [[number, number], [number, number]] = [[225, 0], [225, 200]];
    const off = placeLabels([wanted], { sheet: [400, 200], edge: 2, taken: [], lines: [line] })[0]!;
    expect(crosses(line, off)).toBe(false);
  });

  it("leave what has no room at all to its title", () => {
    expect(placeLabels([{ key: "a", w: 500, h: 16, at: [50, 50], toward: [0, 1] }], { sheet: [100, 100], edge: 2, taken: [{ x: 0, y: 0, w: 100, h: 100 }], lines: [] })).toEqual([]);
  });

  it("knows a line that passes from one that ends before", () => {
    const box = { x: 10, y: 10, w: 10, h: 10 };
    expect(crosses([[0, 0], [30, 30]], box)).toBe(true);
    expect(crosses([[0, 0], [8, 8]], box)).toBe(false);
    expect(crosses([[15, 0], [15, 40]], box)).toBe(true);
    expect(crosses([[25, 0], [25, 40]], box)).toBe(false);
  });
});
