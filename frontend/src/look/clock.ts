/** English as it is written where days come before months; another language as it writes its own, with the digits of every field. */
const language = globalThis.document?.documentElement.lang || "en";
const LOCALE = language === "en" || !Intl.DateTimeFormat.supportedLocalesOf([language]).length ? "en-GB" : `${language}-u-nu-latn`;

const FORMATS = new Map<string, Intl.DateTimeFormat>();

/** A way of writing times, made once: making one costs a hundred times what writing with it does. */
function format(options: Intl.DateTimeFormatOptions, locale = LOCALE): Intl.DateTimeFormat {
  const key = `${locale} ${JSON.stringify(options)}`;
  const known = FORMATS.get(key);
  if (known) return known;
  const made = new Intl.DateTimeFormat(locale, options);
  FORMATS.set(key, made);
  return made;
}

/** Times on a site's own clock, from ISO text or milliseconds. */
export function clockTime(time: string | number, zone: string): string {
  return format({ hour: "2-digit", minute: "2-digit", hourCycle: "h23", timeZone: zone }).format(new Date(time));
}

/** A time on this device's own clock. */
export const clockWords = (time: string) => format({ hour: "2-digit", minute: "2-digit", hourCycle: "h23" }).format(new Date(time));

/** How far a zone's clock is ahead of UTC at an instant, ms. */
export function offsetOf(at: number, zone: string): number {
  const part = format({ timeZone: zone, timeZoneName: "longOffset" }, "en-GB").formatToParts(new Date(at)).find((p) => p.type === "timeZoneName")!.value;
  const [, sign, hours, minutes] = /GMT(?:([+-])(\d\d):(\d\d))?/.exec(part)!;
  return hours ? (sign === "-" ? -1 : 1) * (Number(hours) * 60 + Number(minutes)) * 60_000 : 0;
}

export function dayWords(day: string): string {
  return format({ weekday: "short", day: "numeric", month: "short", timeZone: "UTC" }).format(
    new Date(`${day}T12:00:00Z`),
  );
}

/** A calendar day of another year, 28 Nov 2024. */
export const dateYearWords = (day: string) =>
  format({ day: "numeric", month: "short", year: "numeric", timeZone: "UTC" }).format(new Date(`${day}T12:00:00Z`));

/** The day and month of a calendar day, YYYY-MM-DD. */
export const monthDayWords = (day: string) => dateWords(`${day}T12:00:00Z`, "UTC");

/** The day and month of an instant at a site, in short: 12 Jun. */
export const shortDateWords = (time: number, zone: string) => format({ day: "numeric", month: "short", timeZone: zone }).format(time);

/** The weekday and day of an instant at a site, where several days stand on one axis: Thu 12. */
export const weekdayDate = (time: number, zone: string) => format({ weekday: "short", day: "numeric", timeZone: zone }).format(time).replace(",", "");

/** The weekday of a calendar day, Thu. */
export const weekday = (day: string) => format({ weekday: "short", timeZone: "UTC" }).format(new Date(`${day}T12:00:00Z`));

export const DAY_MS = 86_400_000;

/** Where a calendar day begins on an axis of days, ms. */
export const dayStart = (day: string) => Date.parse(`${day}T00:00:00Z`);

/** The day and month of an instant at a site. */
export function dateWords(time: string | number, zone: string): string {
  return format({ day: "numeric", month: "long", timeZone: zone }).format(new Date(time));
}

export function dateTimeWords(time: string | number, zone: string): string {
  return format({
    weekday: "short", day: "numeric", month: "short", year: "numeric", hour: "2-digit", minute: "2-digit", hourCycle: "h23", timeZone: zone,
  }).format(new Date(time));
}

/** The calendar day of an instant at a site, YYYY-MM-DD. */
export function dayOf(time: number, zone: string): string {
  return format({ timeZone: zone }, "en-CA").format(new Date(time));
}

export function shiftDay(day: string, days: number): string {
  const moved = new Date(`${day}T12:00:00Z`);
  moved.setUTCDate(moved.getUTCDate() + days);
  return moved.toISOString().slice(0, 10);
}

export const MONTHS = Array.from({ length: 12 }, (_, month) => format({ month: "short", timeZone: "UTC" }, LOCALE === "en-GB" ? "en" : LOCALE).format(Date.UTC(2000, month, 15)));

/** The whole name of a month, 0 to 11. */
export const monthWords = (month: number) => format({ month: "long", timeZone: "UTC" }).format(Date.UTC(2000, month, 15));

/** "S", "SSW" and so on for an azimuth clockwise from north. */
export function compass(azimuth: number): string {
  const COMPASS_NAMES = ["N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW"];
  return COMPASS_NAMES[Math.round(azimuth / 22.5) % 16]!;
}

export function minutesWords(minutes: number): string {
  const whole = Math.round(minutes);
  return whole < 60 ? `${whole} min` : `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, "0")}`;
}
