import type { TrialBook } from "../api/client";
import { parseTyped, type Quantity, type Units } from "./units";

/** What a channel reads, as a quantity that has units; `change` is for differences and doubts of it. */
export type Read = TrialBook["instruments"][number]["quantity"];
export const READ_AS: Record<Read, { value: Quantity; change: Quantity }> = {
  temperature: { value: "temperature", change: "difference" },
  sun: { value: "irradiance", change: "irradiance" },
  wind: { value: "speed", change: "speed" },
  humidity: { value: "share", change: "share" },
  mass: { value: "mass", change: "mass" },
  moisture: { value: "share", change: "share" },
  flow: { value: "flow", change: "flow" },
  hours: { value: "hours", change: "hours" },
};

type Unit = Pick<TrialBook["units"][number], "name" | "title" | "quantity">;

/** What was typed: a number in the chosen unit or in one that is named, or anything that a field takes, such as "1 lb 4 oz". */
export function readTyped(typed: string, unit: string, allowed: Unit[], quantity: Read, base: string, units: Units): { value: number; unit: string } | null {
  const found = /^(-?\d+(?:\.\d+)?)\s*(\D.*)?$/.exec(typed.trim().replace("−", "-").replace(",", "."));
  const word = found?.[2]?.trim().replace(/^°/, "").toLowerCase();
  const named = word ? allowed.find((u) => [u.name.toLowerCase(), u.title.toLowerCase(), u.title.toLowerCase().replace(/^°/, "")].includes(word)) : allowed.find((u) => u.name === unit);
  if (found && named) return { value: Number(found[1]), unit: named.name };
  const timed = quantity === "flow" ? bucketful(typed, units) : null;
  if (timed !== null) return { value: timed, unit: base };
  const value = typed.trim() ? parseTyped(typed, READ_AS[quantity].value, units) : null;
  return value === null ? null : { value, unit: base };
}

/** Litres a minute of a bucket by the stopwatch, as "10 l in 54 s" or "2 gal in 1.5 min". */
function bucketful(typed: string, units: Units): number | null {
  const found = /^(.+?)\s+in\s+(\d+(?:[.,]\d+)?)\s*(s|sec|seconds?|min|minutes?)$/i.exec(typed.trim());
  const litres = found && parseTyped(found[1]!, "volume", units);
  const seconds = found && Number(found[2]!.replace(",", ".")) * (found[3]!.toLowerCase().startsWith("m") ? 60 : 1);
  return litres && seconds ? (60 * litres) / seconds : null;
}
