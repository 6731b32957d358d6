import type { SumView } from "../api/client";
import { named } from "../look/names";
import { answer, defaultUnit, type Quantity, type Units } from "../look/units";

/** What a sum's inputs and answers are called, and how they are told. */
export function namedIn(name: string, sum: SumView): { words: string; quantity: Quantity | undefined; unit: string } {
  const { words, unit } = sum.called[name] ?? { words: name, unit: "" };
  return { words, quantity: unit ? undefined : sum.quantities[name], unit };
}

export function labelOf(name: string, sum: SumView, units: Units): string {
  const { words, quantity, unit } = namedIn(name, sum);
  const by = quantity ? defaultUnit(quantity, units) : unit;
  return by === "" ? words : `${words}, ${by}`;
}

export function told(name: string, value: unknown, sum: SumView, units: Units): string {
  if (typeof value === "boolean") return named(value ? "yes" : "no");
  if (Array.isArray(value)) return value.length > 0 ? value.join("; ") : named("none");
  if (typeof value === "string") return value;
  if (typeof value !== "number") return value === null ? named("none") : JSON.stringify(value);
  const { quantity, unit } = namedIn(name, sum);
  if (quantity) return answer(value, quantity, units);
  return `${Number(value.toPrecision(4))}${unit ? ` ${unit}` : ""}`;
}
