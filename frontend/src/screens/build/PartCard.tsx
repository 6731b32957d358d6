import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { isCoupons, type BoxOven, type PotLoad } from "../../api/client";
import { materialsQuery } from "../../api/queries";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { MaterialChoice, rowOf } from "../../parts/MaterialChoice";
import { NumberField } from "../../parts/NumberField";
import { ownOf, Row, type CardProps } from "./card";
import { CoverCard } from "./CoverCard";
import { MirrorCard } from "./MirrorCard";
import type { BuildState } from "./useBuild";

/** One part's card: what it is made of and its numbers; every change is a revision that can be undone. */
export const PARTS = [
  { part: "cover", title: "Cover" },
  { part: "mirror", title: "Mirrors" },
  { part: "tray", title: "Tray" },
  { part: "lining", title: "Lining" },
  { part: "wall", title: "Walls" },
  { part: "box", title: "Box size" },
  { part: "seal", title: "Seal and vent" },
  { part: "load", title: "Pot and food" },
  { part: "aim", title: "Stand" },
];

export const NEW_LOAD: PotLoad = {
  kind: "pot", food: "water", food_kg: 1.5, start_c: 20, pot_kg: 0.9, pot_finish: "black-enamel", pot_diameter_m: 0.2,
  pot_height_m: 0.12, lid: "black", goes_in: "10:30",
};

export function PartCard({ part, state }: { part: string; state: BuildState }) {
  const { data: materials } = useQuery(materialsQuery);
  const draft = state.draft!;
  if (!materials || isCoupons(draft.spec)) return null;
  const spec = draft.spec;
  const props: CardProps = {
    spec,
    load: draft.load,
    materials,
    change: (change, note) => state.save({ spec: { ...spec, ...change } }, note),
    changeLoad: (load, note) => state.save({ load }, note),
    about: (field) => state.problem?.about(field),
  };
  const cards: Record<string, () => ReactNode> = {
    cover: () => <CoverCard {...props} />,
    mirror: () => <MirrorCard {...props} />,
    tray: () => <FinishCard {...props} field="tray" title="Tray: what the sun lands on" />,
    lining: () => <FinishCard {...props} field="lining" title="Lining of the inner walls" />,
    wall: () => <WallCard {...props} />,
    box: () => <BoxCard {...props} />,
    seal: () => <SealCard {...props} />,
    load: () => <LoadCard {...props} />,
    aim: () => <AimCard {...props} />,
  };
  return <Box component="section" aria-label={`${part} card`} sx={{ minHeight: 190 }}>{(cards[part] ?? cards.box!)()}</Box>;
}

function FinishCard({ spec, materials, change, field, title }: CardProps & { field: "tray" | "lining"; title: string }) {
  const { units } = usePrefs();
  const value = spec[field] ?? (field === "tray" ? "flat-black-paint" : "aluminium-foil");
  const row = rowOf(value, materials.absorbers);
  return (
    <>
      <Typography variant="h2">{title}</Typography>
      <Row>
        <MaterialChoice label="Finish" value={value} rows={materials.absorbers} own={ownOf(materials, "absorber")} onChange={(choice, next) => change({ [field]: choice }, `${field}: ${next.title}`)} />
      </Row>
      {row && (
        <Typography variant="body2">
          Takes up {Math.round(row.absorptance * 100)} of 100 W of sun, gives off {Math.round(row.emittance * 100)} % of what a black body would. Lasts to
          about {withUnit(row.top_service_c, "temperature", units)}{row.food_safe ? "" : "; not for food nearby"}. Source: {row.source}.
        </Typography>
      )}
    </>
  );
}

function WallCard({ spec, materials, change, about }: CardProps) {
  const set = (i: number, layer: Partial<BoxOven["wall"][number]>, note: string) =>
    change({ wall: spec.wall.map((w, k) => (k === i ? { ...w, ...layer } : w)) }, note);
  return (
    <>
      <Typography variant="h2">Walls and floor, from the inside out</Typography>
      {spec.wall.map((layer, i) => (
        <Box key={i} sx={{ display: "grid", gridTemplateColumns: "3fr 2fr auto", gap: 1, mt: 1, alignItems: "start" }}>
          <MaterialChoice
            label={`Layer ${i + 1}`} value={layer.material} rows={materials.layers} own={ownOf(materials, "layer")}
            onChange={(material, row) => set(i, { material, thickness_m: row.usual_thickness_m }, `wall layer ${i + 1}: ${row.title}`)}
          />
          <NumberField label="Thickness" value={layer.thickness_m} quantity="length" problem={about(`wall.${i}.thickness_m`)} onCommit={(thickness_m) => set(i, { thickness_m }, `wall layer ${i + 1} thickness`)} />
          <Button disabled={spec.wall.length === 1} aria-label={`take layer ${i + 1} out`} onClick={() => change({ wall: spec.wall.filter((_, k) => k !== i) }, "wall layer taken out")}>out</Button>
        </Box>
      ))}
      <Button disabled={spec.wall.length >= 6} onClick={() => change({ wall: [...spec.wall, { material: "cork-board", thickness_m: 0.02 }] }, "wall layer added")}>Add a layer outside</Button>
    </>
  );
}

function BoxCard({ spec, change, about }: CardProps) {
  return (
    <>
      <Typography variant="h2">Box, inside</Typography>
      <Row>
        <NumberField label="Width" value={spec.width_m ?? 0.45} quantity="length" problem={about("width_m")} onCommit={(width_m) => change({ width_m }, "width")} />
        <NumberField label="Length up the slope" value={spec.length_m ?? 0.45} quantity="length" problem={about("length_m")} onCommit={(length_m) => change({ length_m }, "length")} />
        <NumberField label="Height, tray to cover" value={spec.height_m ?? 0.25} quantity="length" problem={about("height_m")} onCommit={(height_m) => change({ height_m }, "height")} />
      </Row>
    </>
  );
}

function SealCard({ spec, change, about }: CardProps) {
  return (
    <>
      <Typography variant="h2">Seal and vent</Typography>
      <Row>
        <NumberField label="Mean gap round the cover" value={spec.seal_gap_mm ?? 0.5} quantity="gap_mm" hint="a good felt strip: 0.2 mm" problem={about("seal_gap_mm")} onCommit={(seal_gap_mm) => change({ seal_gap_mm }, "seal")} />
        <NumberField label="Vent, all of its opening" value={spec.vent_cm2 ?? 0} quantity="area_cm2" problem={about("vent_cm2")} onCommit={(vent_cm2) => change({ vent_cm2 }, "vent")} />
        {(spec.vent_cm2 ?? 0) > 0 && (
          <Choice label="It stands" value={String(spec.vent_open ?? 1)} options={SETTINGS} onChange={(share) => change({ vent_open: Number(share) }, `vent set to ${share}`)} />
        )}
      </Row>
    </>
  );
}

function AimCard({ spec, change, about }: CardProps) {
  return (
    <>
      <Typography variant="h2">How it stands</Typography>
      <Row>
        <NumberField label="Faces (from north, clockwise)" value={spec.facing_deg} quantity="angle" problem={about("facing_deg")} onCommit={(facing_deg) => change({ facing_deg }, "facing")} />
        <NumberField label="Tilt of the opening" value={spec.tilt_deg ?? 30} quantity="angle" problem={about("tilt_deg")} onCommit={(tilt_deg) => change({ tilt_deg }, "tilt")} />
      </Row>
    </>
  );
}

function LoadCard({ load, materials, changeLoad, about }: CardProps) {
  const { units } = usePrefs();
  if (!load) {
    return (
      <>
        <Typography variant="h2">Pot and food</Typography>
        <Typography sx={{ my: 1 }}>The box stands empty.</Typography>
        <Button variant="contained" onClick={() => changeLoad(NEW_LOAD, "pot put in")}>Put a pot in</Button>
      </>
    );
  }
  const set = (next: Partial<PotLoad>, note: string) => changeLoad({ ...load, ...next }, note);
  const food = materials.foods.find((f) => f.name === load.food);
  return (
    <>
      <Typography variant="h2">Pot and food</Typography>
      <Row>
        <Choice label="Food" value={load.food ?? "water"} options={materials.foods.map((f) => ({ value: f.name, title: f.title }))} onChange={(name) => set({ food: name, target_c: null, hold_minutes: null }, `food: ${name}`)} />
        <NumberField label="How much" value={load.food_kg ?? 1.5} quantity="mass" problem={about("food_kg") ?? about("load")} onCommit={(food_kg) => set({ food_kg }, "amount of food")} />
        <NumberField label="Goes in at" value={load.start_c ?? 20} quantity="temperature" problem={about("start_c")} onCommit={(start_c) => set({ start_c }, "start temperature")} />
        <Choice label="At" value={load.goes_in ?? "10:30"} options={HOURS} onChange={(goes_in) => set({ goes_in }, `goes in at ${goes_in}`)} />
        <NumberField label="Target" value={load.target_c ?? food?.target_c ?? 90} quantity="temperature" hint={food ? `${food.title}: ${withUnit(food.target_c, "temperature", units)}` : ""} problem={about("target_c")} onCommit={(target_c) => set({ target_c }, "target")} />
        <NumberField label="Held for" value={load.hold_minutes ?? food?.hold_minutes ?? 0} quantity="minutes" problem={about("hold_minutes")} onCommit={(hold_minutes) => set({ hold_minutes }, "holding time")} />
        <Choice label="Lid" value={load.lid ?? "black"} options={[{ value: "black", title: "black lid" }, { value: "clear", title: "clear lid" }, { value: "none", title: "no lid" }]} onChange={(lid) => set({ lid: lid as "black" | "clear" | "none" }, `${lid} lid`)} />
        <MaterialChoice label="Pot finish" value={load.pot_finish ?? "black-enamel"} rows={materials.absorbers} own={ownOf(materials, "absorber")} onChange={(pot_finish) => set({ pot_finish }, "pot finish")} />
        <NumberField label="Pot across" value={load.pot_diameter_m ?? 0.2} quantity="length" problem={about("pot_diameter_m")} onCommit={(pot_diameter_m) => set({ pot_diameter_m }, "pot size")} />
        <NumberField label="Pot weighs" value={load.pot_kg ?? 0.9} quantity="mass" problem={about("pot_kg")} onCommit={(pot_kg) => set({ pot_kg }, "pot weight")} />
      </Row>
      <Button onClick={() => changeLoad(null, "pot taken out")}>Take the pot out</Button>
    </>
  );
}

const SETTINGS = [{ value: "0", title: "shut" }, { value: "0.25", title: "a quarter open" }, { value: "0.5", title: "half open" }, { value: "0.75", title: "three quarters open" }, { value: "1", title: "open" }];

const HOURS = Array.from({ length: 33 }, (_, k) => {
  const minutes = 5 * 60 + k * 30;
  const text = `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
  return { value: text, title: text };
});
