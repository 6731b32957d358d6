/** Units at the edge: what is shown, and what is understood when a person types. The core speaks SI and °C. */
export type Quantity = "temperature" | "length" | "mass" | "angle" | "minutes" | "area_cm2" | "gap_mm" | "speed" | "fraction" | "plain";
export interface Units {
  temperature: "C" | "F";
  length: "mm" | "in";
}

interface UnitRow {
  words: string[];
  toBase: (value: number) => number;
}

const same = (value: number) => value;
const scale = (factor: number) => (value: number) => value * factor;

const TABLE: Record<Quantity, UnitRow[]> = {
  temperature: [
    { words: ["c", "°c", "celsius"], toBase: same },
    { words: ["f", "°f", "fahrenheit"], toBase: (f) => (f - 32) / 1.8 },
  ],
  length: [
    { words: ["mm"], toBase: scale(0.001) },
    { words: ["cm"], toBase: scale(0.01) },
    { words: ["m"], toBase: same },
    { words: ["in", '"', "inch", "inches"], toBase: scale(0.0254) },
    { words: ["ft", "'", "feet", "foot"], toBase: scale(0.3048) },
  ],
  mass: [
    { words: ["kg"], toBase: same },
    { words: ["g"], toBase: scale(0.001) },
    { words: ["lb", "lbs"], toBase: scale(0.45359237) },
    { words: ["oz"], toBase: scale(0.028349523) },
  ],
  angle: [{ words: ["°", "deg"], toBase: same }],
  minutes: [
    { words: ["min", "minutes"], toBase: same },
    { words: ["h", "hours"], toBase: scale(60) },
  ],
  area_cm2: [
    { words: ["cm²", "cm2"], toBase: same },
    { words: ["in²", "in2"], toBase: scale(6.4516) },
  ],
  gap_mm: [
    { words: ["mm"], toBase: same },
    { words: ["in", '"'], toBase: scale(25.4) },
  ],
  speed: [
    { words: ["m/s"], toBase: same },
    { words: ["km/h"], toBase: scale(1 / 3.6) },
    { words: ["mph"], toBase: scale(0.44704) },
  ],
  fraction: [
    { words: [""], toBase: same },
    { words: ["%"], toBase: scale(0.01) },
  ],
  plain: [{ words: [""], toBase: same }],
};

/** "3/4 in", "1 1/2", "110 F", "0,5": a number in base units, or null when it cannot be understood. */
export function parseTyped(text: string, quantity: Quantity, units: Units): number | null {
  const found = /^\s*(-?)\s*(?:(\d+)\s+(\d+)\/(\d+)|(\d+)\/(\d+)|(\d*[.,]?\d+(?:e-?\d+)?|\d+[.,]))\s*([^\d\s].*)?$/i.exec(text);
  if (!found) return null;
  const [, sign, whole, top, below, first, second, plain, rest] = found;
  const value = whole
    ? Number(whole) + Number(top) / Number(below)
    : first
      ? Number(first) / Number(second)
      : Number(plain!.replace(",", "."));
  const word = (rest ?? defaultUnit(quantity, units)).trim().toLowerCase();
  const row = TABLE[quantity].find((r) => r.words.includes(word)) ?? (rest ? null : TABLE[quantity][0]);
  if (!row || !Number.isFinite(value)) return null;
  return row.toBase(sign ? -value : value);
}

/** The unit that a bare number means, in the user's units. */
export function defaultUnit(quantity: Quantity, units: Units): string {
  const words: Record<Quantity, string> = {
    temperature: units.temperature === "F" ? "°F" : "°C",
    length: units.length,
    mass: "kg",
    angle: "°",
    minutes: "min",
    area_cm2: units.length === "in" ? "in²" : "cm²",
    gap_mm: units.length,
    speed: "m/s",
    fraction: "",
    plain: "",
  };
  return words[quantity];
}

function trimmed(value: number, digits: number): string {
  return String(Number(value.toFixed(digits)));
}

/** A base value as text in the user's units, without the unit. */
export function shown(value: number, quantity: Quantity, units: Units): string {
  switch (quantity) {
    case "temperature":
      return trimmed(units.temperature === "F" ? value * 1.8 + 32 : value, 0);
    case "length":
      return units.length === "in" ? trimmed(value / 0.0254, 2) : trimmed(value * 1000, 2);
    case "gap_mm":
      return units.length === "in" ? trimmed(value / 25.4, 3) : trimmed(value, 2);
    case "area_cm2":
      return units.length === "in" ? trimmed(value / 6.4516, 1) : trimmed(value, 1);
    default:
      return trimmed(value, 2);
  }
}

/** A base value with its unit. */
export function withUnit(value: number, quantity: Quantity, units: Units): string {
  const unit = defaultUnit(quantity, units);
  return `${shown(value, quantity, units)}${unit === "°" || unit === "" ? unit : ` ${unit}`}`;
}

/** A temperature *difference*. */
export function kelvins(value: number, units: Units, digits = 0): string {
  return units.temperature === "F" ? `${(value * 1.8).toFixed(digits)} °F` : `${value.toFixed(digits)} K`;
}

/** Put the user's units into a core sentence, whose temperatures are written as "98 °C" and differences as "7 K". */
export function inUserUnits(sentence: string, units: Units): string {
  if (units.temperature === "C") return sentence;
  const fahrenheit = (c: string) => trimmed(Number(c) * 1.8 + 32, 0);
  const spread = (k: string) => (Number(k) * 1.8).toFixed(k.includes(".") ? 1 : 0);
  return sentence
    .replace(/(\d+(?:\.\d+)?) ± (\d+(?:\.\d+)?) K(?=[\s,.;:)]|$)/g, (_, a: string, b: string) => `${spread(a)} ± ${spread(b)} °F`)
    .replace(/(± )(\d+(?:\.\d+)?) °C/g, (_, sign: string, k: string) => `${sign}${trimmed(Number(k) * 1.8, 0)} °F`)
    .replace(/(-?\d+(?:\.\d+)?)( to | ± | and )(-?\d+(?:\.\d+)?) °C/g, (_, a: string, mid: string, b: string) =>
      `${fahrenheit(a)}${mid}${mid === " ± " ? trimmed(Number(b) * 1.8, 0) : fahrenheit(b)} °F`)
    .replace(/(-?\d+(?:\.\d+)?) °C/g, (_, c: string) => `${fahrenheit(c)} °F`)
    .replace(/(\d+(?:\.\d+)?) K(?=[\s,.;:)]|$)/g, (_, k: string) => `${trimmed(Number(k) * 1.8, 0)} °F`);
}
