import { Box, Button, TextField } from "@mui/material";
import type { Site } from "../../api/client";
import type { Quantity } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { NumberField } from "../../parts/NumberField";
import { SkylineDrawing } from "./SkylineDrawing";

export type Spot = Site["spots"][number];

interface Props {
  spot: Spot;
  index: number;
  about: (field: string) => string | undefined;
  onChange: (change: Partial<Spot>) => void;
  onRemove: (() => void) | undefined;
}

/** A spot: its skyline and obstacles on the picture of the sky, and the same as numbers. */
export function SpotForm({ spot, index, about, onChange, onRemove }: Props) {
  const { obstacles, horizon } = spot;
  const setObstacle = (i: number, change: Partial<(typeof obstacles)[number]>) => onChange({ obstacles: obstacles.map((o, k) => (k === i ? { ...o, ...change } : o)) });
  const setPoint = (i: number, change: Partial<(typeof horizon)[number]>) => onChange({ horizon: horizon.map((p, k) => (k === i ? { ...p, ...change } : p)) });
  return (
    <Box component="fieldset" className="border-1-rule mb-1_5 mx-0">
      <legend>Spot {index + 1}</legend>
      <Box className="flex gap-1 mb-1 mt-0_5">
        <TextField label="Spot name" value={spot.name} onChange={(e) => onChange({ name: e.target.value })} className="max-width-260" />
        {onRemove && <Button onClick={onRemove}>Take this spot away</Button>}
      </Box>
      <Around spot={spot} index={index} about={about} onChange={onChange} />
      <SkylineDrawing spot={spot} onChange={onChange} />
      {horizon.map((p, i) => (
        <Box key={i} className="grid columns-1fr-1fr-auto gap-1 max-width-520">
          <NumberField label="Skyline towards" value={p.azimuth_deg} quantity="angle" problem={about(`spots.${index}.horizon.${i}.azimuth_deg`)} onCommit={(azimuth_deg) => setPoint(i, { azimuth_deg })} />
          <NumberField label="Height" value={p.altitude_deg} quantity="angle" problem={about(`spots.${index}.horizon.${i}.altitude_deg`)} onCommit={(altitude_deg) => setPoint(i, { altitude_deg })} />
          <Button className="height-38" aria-label={`out: skyline point ${i + 1}`} onClick={() => onChange({ horizon: horizon.filter((_, k) => k !== i) })}>out</Button>
        </Box>
      ))}
      {obstacles.map((o, i) => (
        <Box key={i} className="obstacle-row">
          <TextField label="Obstacle" value={o.name} onChange={(e) => setObstacle(i, { name: e.target.value })} />
          <NumberField label="Bearing" value={o.bearing_deg} quantity="angle" problem={about(`spots.${index}.obstacles.${i}.bearing_deg`)} onCommit={(bearing_deg) => setObstacle(i, { bearing_deg })} />
          <NumberField label="Away" value={o.distance_m} quantity="distance" problem={about(`spots.${index}.obstacles.${i}.distance_m`)} onCommit={(distance_m) => setObstacle(i, { distance_m })} />
          <NumberField label="High" value={o.height_m} quantity="distance" problem={about(`spots.${index}.obstacles.${i}.height_m`)} onCommit={(height_m) => setObstacle(i, { height_m })} />
          <NumberField label="Wide" value={o.width_m} quantity="distance" problem={about(`spots.${index}.obstacles.${i}.width_m`)} onCommit={(width_m) => setObstacle(i, { width_m })} />
          <Button className="height-38" aria-label={`out: ${o.name}`} onClick={() => onChange({ obstacles: obstacles.filter((_, k) => k !== i) })}>out</Button>
        </Box>
      ))}
      <Button onClick={() => onChange({ horizon: [...horizon, nextPoint(horizon)] })}>Add a skyline point</Button>{" "}
      <Button onClick={() => onChange({ obstacles: [...obstacles, { name: "tree", bearing_deg: 180, distance_m: 8, height_m: 4, width_m: 4 }] })}>Add an obstacle</Button>
    </Box>
  );
}

type Surroundings = NonNullable<Spot["around"]>;
type Field = { [K in keyof Surroundings]: Surroundings[K] extends number ? K : never }[keyof Surroundings];
type Asked = [field: Field, label: string, quantity: Quantity];

const LETS_IN: Asked = ["sun_share", "Its glass lets in", "share"];
/** What a build may stand in, and what is asked of each. */
const INSIDE: Record<Surroundings["kind"], { title: string; asked: Asked[] }> = {
  greenhouse: { title: "in a greenhouse", asked: [LETS_IN, ["warmer_k", "Warmer than outside, in full sun", "difference"]] },
  room: { title: "in a room, behind a window", asked: [LETS_IN, ["kept_c", "Kept at", "temperature"], ["window_deg", "Its window looks", "angle"]] },
};
const WHERE = [{ value: "open", title: "in the open" }, ...Object.entries(INSIDE).map(([value, { title }]) => ({ value, title }))];

/** What it stands in, and what that does to sun and air. */
function Around({ spot, index, about, onChange }: Omit<Props, "onRemove">) {
  const { around } = spot;
  return (
    <Box className="grid columns-repeat-auto-fit-minmax-180px-1fr gap-1_5 mb-1">
      <Choice label="It stands" value={around?.kind ?? "open"} options={WHERE} onChange={(kind) => onChange({ around: kind === "open" ? null : { sun_share: 0.7, warmer_k: 10, kept_c: 20, window_deg: 180, ...around, kind: kind as Surroundings["kind"] } })} />
      {around && INSIDE[around.kind].asked.map(([field, label, quantity]) => (
        <NumberField key={field} label={label} value={around[field]} quantity={quantity} problem={about(`spots.${index}.around.${field}`)} onCommit={(value) => onChange({ around: { ...around, [field]: value } })} />
      ))}
    </Box>
  );
}

/** Beside the last one, as high as it. */
const nextPoint = (horizon: Spot["horizon"]): Spot["horizon"][number] => {
  const last = horizon.at(-1);
  return last ? { azimuth_deg: (last.azimuth_deg + 20) % 360, altitude_deg: last.altitude_deg } : { azimuth_deg: 180, altitude_deg: 5 };
};
