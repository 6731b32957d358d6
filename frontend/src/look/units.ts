import type { components } from "../api/schema";
import table from "../api/units.json";

/** Units at the edge: what is shown, and what is understood when a person types. The table is the core's own. */
export type Amount = components["schemas"]["Amount"];
export type Quantity = Amount["quantity"];
export type Sentence = (string | Amount)[];
/** The user's unit of each quantity that one sets, by its symbol. */
export type Units = Record<string, string>;

interface Unit {
  symbol: string;
  words: string[];
  factor: number;
  offset: number;
  figures: number;
  decimals: number;
  close: boolean;
  coins: boolean;
}

const UNITS = table.units as Record<string, Unit[]>;
const FOLLOWED = table.followed as Record<string, Record<string, string>>;
export const CHOSEN = table.chosen as Record<string, string>;
export const PRESETS = table.presets as Record<string, Units>;
export const USUAL: Units = PRESETS.metric!;

/** What a person may type for a quantity's base unit. */
export const baseWord = (quantity: Quantity): string => UNITS[quantity]![0]!.words[0]!;
export const choicesOf = (quantity: string): string[] => UNITS[quantity]!.map((u) => u.symbol);

/** The unit in which a user reads a quantity: the one set for it, one that comes with another that was set, else its first. */
export function unitOf(quantity: Quantity, units: Units): Unit {
  const followed = Object.entries(units).map(([of, symbol]) => FOLLOWED[`${of} ${symbol}`]?.[quantity]).find(Boolean);
  const symbol = units[quantity] ?? followed;
  return UNITS[quantity]!.find((u) => u.symbol === symbol) ?? UNITS[quantity]![0]!;
}

const toBase = (value: number, unit: Unit) => (value + unit.offset) * unit.factor;
const fromBase = (value: number, unit: Unit) => value / unit.factor - unit.offset;

function decimalsFor(value: number, unit: Unit, figures = unit.figures, most = unit.decimals): number {
  const before = value === 0 ? 0 : Math.floor(Math.log10(Math.abs(value))) + 1;
  return Math.max(0, Math.min(most, figures - before));
}

const fixed = (value: number, decimals: number) => value.toFixed(decimals).replace(/^-(0(?:\.0+)?)$/, "$1").replace("-", "−");

/** Digits without zeros at the end, save where coins are counted. */
function short(text: string, coins = 0): string {
  const [whole, rest = ""] = text.split(".") as [string, string?];
  if (/^0*$/.test(rest)) return whole;
  return `${whole}.${rest.replace(/0+$/, "").padEnd(coins, "0")}`;
}

/** A count of things, its thousands set apart. */
export const countWords = (count: number) => count.toLocaleString("en");

const coinsOf = (unit: Unit) => (unit.coins ? unit.decimals : 0);

/** A base value as digits in the user's unit. */
export function shown(value: number, quantity: Quantity, units: Units): string {
  const unit = unitOf(quantity, units);
  const number = fromBase(value, unit);
  return short(fixed(number, decimalsFor(number, unit)), coinsOf(unit));
}

/** What a sum gives, in the user's unit: four figures, which is more than a thermometer tells and what the next sum needs. */
export function answer(value: number, quantity: Quantity, units: Units): string {
  const unit = unitOf(quantity, units);
  return `${String(Number(fromBase(value, unit).toPrecision(4))).replace("-", "−")}${unit.close ? "" : " "}${unit.symbol}`.trim();
}

/** A base value as it stands in a field: fine enough that nothing which was typed is lost. */
export function typedDigits(value: number, quantity: Quantity, units: Units): string {
  const unit = unitOf(quantity, units);
  const number = fromBase(value, unit);
  return short(fixed(number, decimalsFor(number, unit, unit.figures + 2, unit.decimals + 2)));
}

/** A base value to the tenth, for tables of guesses and means. */
export const tenths = (value: number, quantity: Quantity, units: Units): string => short(fixed(fromBase(value, unitOf(quantity, units)), 1));

/** A base value with its unit, and its doubt beside it where there is one; tenths where they were read. */
export function withUnit(value: number, quantity: Quantity, units: Units, more: { doubt?: number | null; signed?: boolean; tenths?: boolean } = {}): string {
  const unit = unitOf(quantity, units);
  const number = fromBase(value, unit);
  const beside = more.doubt == null ? null : Math.abs(more.doubt / unit.factor);
  const rule = beside ? decimalsFor(beside, unit, 2) : decimalsFor(number, unit);
  const decimals = more.tenths ? Math.max(rule, 1) : rule;
  const text = beside || more.tenths ? fixed(number, decimals) : short(fixed(number, decimals), coinsOf(unit));
  const sign = more.signed && /[1-9]/.test(text) && !text.startsWith("−") ? "+" : "";
  const doubt = beside === null ? "" : ` ± ${beside ? fixed(Math.max(beside, 10 ** -decimals), decimals) : "0"}`;
  return `${sign}${text}${doubt}${unit.close || unit.symbol === "" ? "" : " "}${unit.symbol}`;
}

/** A moisture of wood, on dry weight, with a tenth where that tells; every user's unit of it is the per cent. */
export const moistureWords = (mc: number) => `${(100 * mc).toFixed(mc < 0.3 ? 1 : 0)} %`;

/** A sentence of the core in the user's units. */
export function say(sentence: Sentence | string, units: Units): string {
  if (typeof sentence === "string") return sentence;
  return sentence.map((piece) => (typeof piece === "string" ? piece : withUnit(piece.value, piece.quantity, units, { doubt: piece.doubt, signed: piece.signed }))).join("");
}

/** The unit that a bare number means. */
export const defaultUnit = (quantity: Quantity, units: Units): string => unitOf(quantity, units).symbol;

const NUMBER = String.raw`(?:(\d+)\s+(\d+)\/(\d+)|(\d+)\/(\d+)|(\d*[.,]?\d+(?:e-?\d+)?|\d+[.,]))`;
const PIECE = new RegExp(String.raw`^\s*${NUMBER}\s*([^\d\s.,-][^\d]*)?`, "i");

/** "3/4 in", "1 1/2", "110 F", "0,5", "1 lb 4 oz": a number in base units, or null when it cannot be understood. */
export function parseTyped(text: string, quantity: Quantity, units: Units): number | null {
  const [, minus, rest] = /^\s*([-−]?)(.*)$/s.exec(text)!;
  if (quantity === "angle") return parseAngle(text);
  let left = rest!;
  let sum = 0;
  let before: Unit | null = null;
  for (let k = 0; left.trim() !== ""; k += 1) {
    const found = PIECE.exec(left);
    if (!found) return null;
    const unit = unitCalled(found[7], quantity, units);
    // What follows must be a smaller unit, as in pounds and ounces; degrees are not added up.
    if (!unit || (k > 0 && (!found[7] || !before || unit.factor >= before.factor || unit.offset !== 0))) return null;
    sum += toBase(valueOf(found), unit) * 1;
    if (minus && unit.offset !== 0) return k === 0 && left.slice(found[0].length).trim() === "" ? toBase(-valueOf(found), unit) : null;
    before = unit;
    left = left.slice(found[0].length);
    if (k > 3) return null;
  }
  return before === null || !Number.isFinite(sum) ? null : minus ? -sum : sum;
}

function valueOf(found: RegExpExecArray): number {
  const [, whole, top, below, first, second, plain] = found;
  if (whole) return Number(whole) + Number(top) / Number(below);
  return first ? Number(first) / Number(second) : Number(plain!.replace(",", "."));
}

function unitCalled(word: string | undefined, quantity: Quantity, units: Units): Unit | undefined {
  const said = word?.trim().toLowerCase();
  if (!said) return unitOf(quantity, units);
  return UNITS[quantity]!.find((u) => u.words.includes(said));
}

const ANGLE = /^\s*([-−]?)\s*(\d+(?:[.,]\d+)?)\s*(?:°|deg|degrees?)?\s*(?:(\d+(?:[.,]\d+)?)\s*['′])?\s*(?:(\d+(?:[.,]\d+)?)\s*(?:["″]|''))?\s*([NSEW])?\s*$/i;

/** "30", "30,5°", "50° 27' N", "0° 7′ 39″ W": degrees, south and west below nothing; null when it cannot be understood. */
export function parseAngle(text: string): number | null {
  const found = ANGLE.exec(text);
  if (!found) return null;
  const [, minus, whole, arc, second, side] = found;
  const number = (part: string | undefined) => (part ? Number(part.replace(",", ".")) : 0);
  if (number(arc) >= 60 || number(second) >= 60) return null;
  const value = number(whole) + number(arc) / 60 + number(second) / 3600;
  const below = Boolean(minus) !== /[sw]/i.test(side ?? "");
  return below ? -value : value;
}
