import { Box, Button, Typography } from "@mui/material";
import { useState } from "react";
import { isBox, type Boxed, type BoxOven } from "../../api/client";
import { MaterialChoice, rowOf } from "../../parts/MaterialChoice";
import { NumberField } from "../../parts/NumberField";
import { ownOf, Row, type CardProps } from "./card";

type Flap = NonNullable<BoxOven["mirror"]>;
type Edge = "upper" | "lower" | "left" | "right";
const EDGES: Edge[] = ["upper", "lower", "left", "right"];
const PLAIN: Flap = { material: "kitchen-foil", length_m: 0.45, angle_deg: 110 };

export const flapOn = (spec: Boxed, edge: Edge): Flap | null | undefined => (edge === "upper" ? spec.mirror : isBox(spec) ? spec.flaps?.[edge] : null);

export function mirrorCount(spec: Boxed): number {
  return EDGES.filter((edge) => flapOn(spec, edge)).length;
}

/** Up to four mirrors, one on each edge; left and right as seen by somebody who stands at the lower edge. */
export function MirrorCard({ spec, materials, change, about }: CardProps) {
  const [edge, setEdge] = useState<Edge>("upper");
  const flap = flapOn(spec, edge);
  const put = (next: Flap | null, note: string) => change(edge === "upper" || !isBox(spec) ? { mirror: next } : { flaps: { ...spec.flaps, [edge]: next } }, note);
  const set = (next: Partial<Flap>, note: string) => put({ ...flap, ...next } as Flap, note);
  const row = flap && rowOf(flap.material ?? "kitchen-foil", materials.mirrors);
  return (
    <>
      <Typography variant="h2">Mirrors on the edges of the opening</Typography>
      <Box role="group" aria-label="edge" sx={{ display: "flex", gap: 0.5, my: 1 }}>
        {(isBox(spec) ? EDGES : EDGES.slice(0, 1)).map((name) => (
          <Button key={name} aria-pressed={name === edge} variant={name === edge ? "contained" : "outlined"} onClick={() => setEdge(name)}>
            {name}{flapOn(spec, name) ? "" : ": none"}
          </Button>
        ))}
      </Box>
      {flap ? (
        <>
          <Row>
            <MaterialChoice label="Surface" value={flap.material ?? "kitchen-foil"} rows={materials.mirrors} own={ownOf(materials, "mirror")} onChange={(material) => set({ material }, "mirror surface")} />
            <NumberField label="Angle to the opening" value={flap.angle_deg ?? 110} quantity="angle" hint="90° stands square on it" problem={about("angle_deg")} onCommit={(angle_deg) => set({ angle_deg }, `${edge} mirror angle`)} />
            <NumberField label="Length" value={flap.length_m ?? 0.45} quantity="length" problem={about("length_m")} onCommit={(length_m) => set({ length_m }, `${edge} mirror length`)} />
            <Box><Button onClick={() => put(null, `${edge} mirror taken off`)}>Take it off</Button></Box>
          </Row>
          {row && <Typography variant="body2">Throws on {Math.round(row.reflectance * 100)} of 100 W. Source: {row.source}.</Typography>}
        </>
      ) : (
        <>
          <Typography sx={{ my: 1 }}>No mirror on the {edge} edge.</Typography>
          <Button variant="contained" onClick={() => put(flapOn(spec, "upper") ?? PLAIN, `${edge} mirror added`)}>Hinge one on</Button>
        </>
      )}
    </>
  );
}
