import { expect, test } from "vitest";
import { clockTime, offsetOf } from "../look/clock";
import { hourTicks } from "./timeScale";

const day = (zone: string): [number, number] => {
  const midnight = Date.parse("2025-06-12T00:00:00Z") - offsetOf(Date.parse("2025-06-12T00:00:00Z"), zone);
  return [midnight + 5.25 * 3_600_000, midnight + 21 * 3_600_000];
};

test.each(["Europe/Madrid", "Asia/Kolkata", "Asia/Kathmandu", "America/St_Johns", "UTC"])("ticks stand on whole hours of the clock in %s", (zone) => {
  const ticks = hourTicks(day(zone), 1100, zone);
  expect(ticks.length).toBeGreaterThan(10);
  expect(ticks.every((at) => clockTime(at, zone).endsWith(":00"))).toBe(true);
});

test("a zone's offset, half hours and west included", () => {
  const june = Date.parse("2025-06-12T12:00:00Z");
  expect(offsetOf(june, "Asia/Kolkata")).toBe(5.5 * 3_600_000);
  expect(offsetOf(june, "America/St_Johns")).toBe(-2.5 * 3_600_000);
  expect(offsetOf(june, "UTC")).toBe(0);
});
