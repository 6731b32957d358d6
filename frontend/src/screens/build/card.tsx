import { Box } from "@mui/material";
import type { ReactNode } from "react";
import type { Boxed, Load, Materials, Spec } from "../../api/client";

/** What every part card gets: the draft, the shelf, ways to change, and what the core said about a field. */
export interface CardProps<S extends Spec = Boxed> {
  spec: S;
  load: Load | null;
  materials: Materials;
  change: (spec: Partial<S>, note: string) => void;
  changeLoad: (load: Load | null, note: string) => void;
  about: (field: string) => string | undefined;
}

export function Row({ children }: { children: ReactNode }) {
  return <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 1.5, rowGap: 0.5, mt: 1 }}>{children}</Box>;
}

/** Names of the user's own materials of one family. */
export const ownOf = (materials: Materials, family: Materials["own"][number]["family"]): string[] =>
  materials.own.filter((m) => m.family === family).map((m) => m.name);

export const HOURS = Array.from({ length: 33 }, (_, k) => {
  const minutes = 5 * 60 + k * 30;
  const text = `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
  return { value: text, title: text };
});

/** Hours of a list that may hold one that is not on the half hour. */
export const hoursWith = (hour: string) => (HOURS.some((h) => h.value === hour) ? HOURS : [...HOURS, { value: hour, title: hour }].sort((a, b) => a.value.localeCompare(b.value)));
