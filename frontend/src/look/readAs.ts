import type { TrialBook } from "../api/client";
import type { Quantity } from "./units";

/** What a channel reads, as a quantity that has units; `change` is for differences and doubts of it. */
export type Read = TrialBook["instruments"][number]["quantity"];
export const READ_AS: Record<Read, { value: Quantity; change: Quantity }> = {
  temperature: { value: "temperature", change: "difference" },
  sun: { value: "irradiance", change: "irradiance" },
  wind: { value: "speed", change: "speed" },
  humidity: { value: "share", change: "share" },
  mass: { value: "mass", change: "mass" },
  moisture: { value: "share", change: "share" },
  flow: { value: "plain", change: "plain" },
};
