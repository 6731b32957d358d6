import type { Spec } from "../api/client";
import type { Ink } from "./theme";

/** One accent per kind of build. */
export function accentOf(spec: Spec, ink: Ink): string {
  if (spec.kind === "samples") return ink.samples;
  return spec.kind === "melter" ? ink.melter : ink.oven;
}
