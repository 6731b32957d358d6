import { Box, Typography } from "@mui/material";
import type { Verdict } from "../../../api/client";
import { usePrefs } from "../../../look/prefs";
import { withUnit } from "../../../look/units";
import { NumberField } from "../../../parts/NumberField";

/** From one block to a wall of them: what it holds when the sun leaves and gives back in the hours after. */
export function Walls({ walls, wall, onWall }: { walls: Verdict["walls"]; wall: number; onWall: (m2: number) => void }) {
  const { units } = usePrefs();
  return (
    <Box component="section" aria-label="scaled to a wall" className="mt-2">
      <Typography variant="h2">Scaled to a wall</Typography>
      <Box className="max-width-220 mt-1"><NumberField label="Wall" value={wall} quantity="area" onCommit={onWall} /></Box>
      <Box component="ul" className="m-0 pl-2_5">
        {walls.map((w) => <li key={w.sample}>{w.title}: <b>{withUnit(w.wall_kwh, "energy", units, { doubt: w.wall_doubt_kwh })}</b> given back after dusk by {withUnit(w.wall_m2, "area", units)}</li>)}
      </Box>
    </Box>
  );
}
