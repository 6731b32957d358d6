import { withUnit, type Units } from "./units";

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** How far below a wanted temperature it stays; said by the difference, so that rounding never says "60 °C, not 60 °C". */
export const shortOf = (wanted_c: number, peak_c: number, units: Units) =>
  `${withUnit(Math.max(wanted_c - peak_c, 0.1), "difference", units)} short of ${withUnit(wanted_c, "temperature", units)}`;
