import type { SumView } from "../api/client";
import { answer, defaultUnit, type Quantity, type Units } from "../look/units";

/** What a sum's inputs and answers are called, and how they are told. */
/** Names end in their unit. These stay as they are in every setting; the others are the user's own. */
const ENDINGS: [string, string][] = [
  ["_w_m2k", "W/m²K"], ["_m2k_w", "m²K/W"], ["_j_kgk", "J/kg·K"], ["_j_kg", "J/kg"], ["_w_k", "W/K"], ["_l_min", "L/min"], ["_per_m", "1/m"], ["_per_kwh", "per kWh"],
  ["_per_year", "a year"], ["_m3", "m³"], ["_mj", "MJ"], ["_pa", "Pa"], ["_in", "in"], ["_ft", "ft"],
];
const OWN = /_(kwh_m2|w_m2|kg_h|m_s|minutes|share|cm2|m2|mm|deg|kg|c|k|m|w|kwh|h|l)$/;

export function namedIn(name: string, sum: SumView): { words: string; quantity: Quantity | undefined; unit: string } {
  const found = ENDINGS.find(([end]) => name.endsWith(end));
  if (found) return { words: name.slice(0, -found[0].length).replaceAll("_", " "), quantity: undefined, unit: found[1] };
  const quantity = sum.quantities[name];
  return { words: (quantity ? name.replace(OWN, "") : name).replaceAll("_", " "), quantity, unit: "" };
}

export function labelOf(name: string, sum: SumView, units: Units): string {
  const { words, quantity, unit } = namedIn(name, sum);
  const by = quantity ? defaultUnit(quantity, units) : unit;
  return by === "" ? words : `${words}, ${by}`;
}

export function told(name: string, value: unknown, sum: SumView, units: Units): string {
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) return value.length > 0 ? value.join("; ") : "none";
  if (typeof value === "string") return value;
  if (typeof value !== "number") return value === null ? "none" : JSON.stringify(value);
  const { quantity, unit } = namedIn(name, sum);
  if (quantity) return answer(value, quantity, units);
  return `${Number(value.toPrecision(4))}${unit ? ` ${unit}` : ""}`;
}
