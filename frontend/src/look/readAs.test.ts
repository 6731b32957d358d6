import { expect, test } from "vitest";
import { readTyped } from "./readAs";
import { PRESETS } from "./units";

const WARM = [{ name: "C", title: "°C", quantity: "temperature" as const }, { name: "F", title: "°F", quantity: "temperature" as const }];
const HEAVY = [{ name: "kg", title: "kg", quantity: "mass" as const }, { name: "lb", title: "lb", quantity: "mass" as const }];
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
