import { expect, test } from "vitest";
import { clockTime, offsetOf } from "../look/clock";
import { hourTicks, tickWords } from "./timeScale";

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

test("ticks over several days name the day, within a day the hour", () => {
  const noon = Date.parse("2025-06-12T10:00:00Z");
  expect(tickWords(noon, [noon, noon + 3_600_000], "Europe/Madrid")).toBe("12:00");
  expect(tickWords(noon, [noon, noon + 7 * 86_400_000], "Europe/Madrid")).toMatch(/^Thu 12$|^12 Thu$/);
});
