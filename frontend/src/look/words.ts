import type { Outcome } from "../api/client";
import { clockTime, minutesWords } from "./clock";
import { say, withUnit, type Units } from "./units";

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** How far below a wanted temperature it stays; said by the difference, so that rounding never says "60 °C, not 60 °C". */
export const shortOf = (wanted_c: number, peak_c: number, units: Units) =>
  `${withUnit(Math.max(wanted_c - peak_c, 0.1), "difference", units)} short of ${withUnit(wanted_c, "temperature", units)}`;

/** How long after it went in; nothing of what is always there. */
export const afterWords = (minutes: number | null) => (minutes === null ? "" : `, ${minutesWords(minutes)} after it goes in`);

/** What the first day comes to: when the wanted temperature is reached, or the peak and how far short of it that stays. */
export function outcomeWords(outcome: Pick<Outcome, "said" | "days" | "target_c">, units: Units, zone: string): string | null {
  const today = outcome.days[0];
  const { target_c } = outcome;
  if (outcome.said) return say(outcome.said, units);
  if (!today) return null;
  if (today.target_reached_at && target_c !== null)
    return `${withUnit(target_c, "temperature", units)} at ${clockTime(today.target_reached_at, zone)}${afterWords(today.minutes_to_target)}${today.target_doubt_minutes ? `, ± ${minutesWords(today.target_doubt_minutes)}` : ""}`;
  if (!today.warmed) return `it only cools from the ${withUnit(today.peak_c, "temperature", units)} that it goes in with`;
  const short = target_c === null ? "" : `, ${shortOf(target_c, today.peak_c, units)}`;
  return `peak ${withUnit(today.peak_c, "temperature", units, { doubt: today.peak_doubt_k || null })} at ${clockTime(today.peak_at, zone)}${short}`;
}
