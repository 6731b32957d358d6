import { describe, expect, it } from "vitest";
import { APART_PX, layMarks, waysToSay, type Step } from "./marks";

const measure = (text: string) => text.length * 6;
const step = (at: number, text = "turn the dish to the sun, until its indicator throws no shadow"): Step => ({ at, time: `${at}`, text });
const boxes = (marks: ReturnType<typeof layMarks>) =>
  marks.filter((m) => m.label !== null).map((m) => (m.anchor === "start" ? [m.labelX, m.labelX + measure(m.label!)] : [m.labelX - measure(m.label!), m.labelX]) as [number, number]);

describe("marks of a lane", () => {
  it("never let two labels share a pixel, nor leave the lane", () => {
    for (let seed = 1; seed < 400; seed++) {
      let dice = seed;
      const next = () => (dice = (dice * 16807) % 2147483647) / 2147483647;
      const steps = Array.from({ length: 1 + Math.floor(next() * 9) }, () => step(Math.round(46 + next() * 900), "a b c d e f g h".slice(0, 1 + Math.floor(next() * 15))));
      const found = boxes(layMarks(steps, (at) => at, [46, 960], measure)).sort((a, b) => a[0] - b[0]);
      for (const [k, box] of found.entries()) {
        expect(box[0]).toBeGreaterThanOrEqual(46);
        expect(box[1]).toBeLessThanOrEqual(960);
        if (k > 0) expect(box[0]).toBeGreaterThan(found[k - 1]![1]);
      }
    }
  });

  it("takes what a finger cannot tell apart together, and says how many", () => {
    const [mark, ...others] = layMarks([step(100, "one"), step(100 + APART_PX - 1, "two"), step(105, "three")], (at) => at, [46, 960], measure);
    expect(others).toEqual([]);
    expect(mark!.steps.map((s) => s.text)).toEqual(["one", "three", "two"]);
    expect(mark!.label).toBe("100 one +2");
  });

  it("shortens from the end, down to the hour", () => {
    expect(waysToSay([step(9, "set the stand level and aim")])).toEqual(["9 set the stand level and aim", "9 set the stand level …", "9 set the stand …", "9 set the …", "9"]);
    const [first] = layMarks([step(100), step(180)], (at) => at, [46, 960], measure);
    expect(first!.label).toBe("100");
  });

  it("says the last one to its left where the lane ends", () => {
    const [mark] = layMarks([step(940, "at last")], (at) => at, [46, 960], measure);
    expect(mark).toMatchObject({ label: "940 at last", anchor: "end" });
  });
});
