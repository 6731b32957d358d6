import { Box } from "@mui/material";
import type { ReactNode } from "react";
import type { BoxOven, Materials, PotLoad } from "../../api/client";

/** What every part card gets: the draft, the shelf, ways to change, and what the core said about a field. */
export interface CardProps {
  spec: BoxOven;
  load: PotLoad | null;
  materials: Materials;
  change: (spec: Partial<BoxOven>, note: string) => void;
  changeLoad: (load: PotLoad | null, note: string) => void;
  about: (field: string) => string | undefined;
}

export function Row({ children }: { children: ReactNode }) {
  return <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 1.5, rowGap: 0.5, mt: 1 }}>{children}</Box>;
}

/** Names of the user's own materials of one family. */
export const ownOf = (materials: Materials, family: Materials["own"][number]["family"]): string[] =>
  materials.own.filter((m) => m.family === family).map((m) => m.name);
