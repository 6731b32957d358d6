import { expect, test } from "vitest";
import { readTyped } from "./readAs";
import { PRESETS } from "./units";

const WARM = [{ name: "C", title: "°C", quantity: "temperature" as const }, { name: "F", title: "°F", quantity: "temperature" as const }];
const HEAVY = [{ name: "kg", title: "kg", quantity: "mass" as const }, { name: "lb", title: "lb", quantity: "mass" as const }];
const FLOWS = [{ name: "l/min", title: "l/min", quantity: "flow" as const }, { name: "gal/min", title: "gal/min", quantity: "flow" as const }];
const metric = PRESETS.metric!;

test.each([
  ["61,5", { value: 61.5, unit: "C" }], ["143 F", { value: 143, unit: "F" }], ["143 °F", { value: 143, unit: "F" }], ["−4", { value: -4, unit: "C" }], ["warm", null], ["", null],
])("a temperature typed as %s", (typed, read) => {
  expect(readTyped(typed, "C", WARM, "temperature", "C", metric)).toEqual(read);
});

test("what a field takes, a keypad takes: pounds and ounces, fractions", () => {
  expect(readTyped("1 lb 4 oz", "kg", HEAVY, "mass", "kg", metric)!.value).toBeCloseTo(0.567, 3);
  expect(readTyped("1 1/2 lb", "kg", HEAVY, "mass", "kg", metric)!.value).toBeCloseTo(0.68, 2);
  expect(readTyped("2.5 lb", "kg", HEAVY, "mass", "kg", metric)).toEqual({ value: 2.5, unit: "lb" });
});

test.each([
  ["10 l in 54 s", 11.111], ["10 in 60 s", 10], ["2 gal in 1,5 min", 5.047], ["3.2", 3.2], ["1 gal/min", 1], ["10 l in 0 s", null], ["a bucket in a minute", null],
])("a bucket by the stopwatch typed as %s", (typed, value) => {
  const read = readTyped(typed, "l/min", FLOWS, "flow", "l/min", metric);
  if (value === null) expect(read).toBeNull();
  else expect(read!.value).toBeCloseTo(value, 2);
});
