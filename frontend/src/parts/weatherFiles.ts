/** Weather files by their name's end: EPW, TMY2, hourly JSON, else a comma file (tidy, or TMY3). */
export const WEATHER_FILES = ".epw,.csv,.json,.tm2";

export function kindOfFile(name: string): "epw" | "csv" | "json" | "tmy" {
  const end = name.toLowerCase().split(".").at(-1);
  return end === "epw" || end === "json" ? end : end === "tm2" ? "tmy" : "csv";
}
