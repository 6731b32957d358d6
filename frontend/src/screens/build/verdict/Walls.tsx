import { Box, Typography } from "@mui/material";
import type { Verdict } from "../../../api/client";
import { NumberField } from "../../../parts/NumberField";

function digits(kwh: number): string {
  return kwh.toFixed(kwh < 10 ? 2 : 1);
}

/** From one block to a wall of them: what it holds when the sun leaves and gives back in the hours after. */
export function Walls({ walls, wall, onWall }: { walls: Verdict["walls"]; wall: number; onWall: (m2: number) => void }) {
  return (
    <Box component="section" aria-label="scaled to a wall" sx={{ mt: 2 }}>
      <Typography variant="h2">Scaled to a wall</Typography>
      <Box sx={{ maxWidth: 220, mt: 1 }}><NumberField label="Wall, m²" value={wall} quantity="plain" onCommit={onWall} /></Box>
      <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
        {walls.map((w) => <li key={w.sample}>{w.title}: <b>{digits(w.wall_kwh)} ± {digits(w.wall_doubt_kwh)} kWh</b> given back after dusk by {w.wall_m2} m²</li>)}
      </Box>
    </Box>
  );
}
