import type { components } from "../../api/schema";
import { baseWord } from "../../look/units";

/** A wish as the core reads one: in English, whatever language is spoken. */
export const MONTHS_IN_WISHES = Array.from({ length: 12 }, (_, k) => new Date(2001, k, 15).toLocaleDateString("en", { month: "long" }));
export const EVERY = ["once", "a day", "a week", "a month", "a year"];

export interface Picked {
  verb: string;
  good: string;
  amount: number | null;
  every: string;
  month: string;
  budget: number | null;
  hours: number | null;
}

export function sentenceOf(picked: Picked, good: components["schemas"]["VerbWords"]["goods"][number]): string {
  const much = picked.amount === null ? "" : ` ${picked.amount} ${baseWord(good.quantity)} of`;
  const rest = [picked.budget === null ? "" : `up to € ${picked.budget}`, picked.hours === null ? "" : `${picked.hours} hours of work`].filter(Boolean);
  return [`${picked.verb}${much} ${good.title}${picked.every === "once" ? "" : ` ${picked.every}`}${picked.month === "" ? "" : ` in ${picked.month}`}`, ...rest].join(", ");
}
