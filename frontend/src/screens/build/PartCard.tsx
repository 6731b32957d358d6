import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import type { BoxOven, Materials, PotLoad } from "../../api/client";
import { materialsQuery } from "../../api/queries";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { NumberField } from "../../parts/NumberField";
import type { BuildState } from "./useBuild";

/** One part's card: what it is made of and its numbers; every change is a revision that can be undone. */
export const PARTS = [
  { part: "cover", title: "Cover" },
  { part: "mirror", title: "Mirror" },
  { part: "tray", title: "Tray" },
  { part: "lining", title: "Lining" },
  { part: "wall", title: "Walls" },
  { part: "box", title: "Box size" },
  { part: "seal", title: "Seal and vent" },
  { part: "load", title: "Pot and food" },
  { part: "aim", title: "Stand" },
];

interface CardProps {
  spec: BoxOven;
  load: PotLoad | null;
  materials: Materials;
  change: (spec: Partial<BoxOven>, note: string) => void;
  changeLoad: (load: PotLoad | null, note: string) => void;
  about: (field: string) => string | undefined;
}

export const NEW_LOAD: PotLoad = {
  kind: "pot", food: "water", food_kg: 1.5, start_c: 20, pot_kg: 0.9, pot_finish: "black-enamel", pot_diameter_m: 0.2,
  pot_height_m: 0.12, lid: "black", goes_in: "10:30",
};

export function PartCard({ part, state }: { part: string; state: BuildState }) {
  const { data: materials } = useQuery(materialsQuery);
  const draft = state.draft!;
  if (!materials) return null;
  const props: CardProps = {
    spec: draft.spec,
    load: draft.load,
    materials,
    change: (change, note) => state.save({ spec: { ...draft.spec, ...change } }, note),
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

function Row({ children }: { children: ReactNode }) {
  return <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 1.5, rowGap: 0.5, mt: 1 }}>{children}</Box>;
}

function CoverCard({ spec, materials, change, about }: CardProps) {
  const { units } = usePrefs();
  const cover = spec.cover;
  const usual = (name: string) => materials.covers.find((c) => c.name === name);
  const set = (next: Partial<NonNullable<typeof cover>>, note: string) => change({ cover: { ...cover!, ...next } }, note);
  const sheets = (count: number) => {
    if (count === 0) change({ cover: null }, "no cover");
    else if (cover) set({ layers: count }, `${count} cover layer${count > 1 ? "s" : ""}`);
    else change({ cover: { material: "window-glass", thickness_m: 0.004, layers: count, gap_m: 0.015 } }, `${count} cover layers`);
  };
  const row = cover && usual(cover.material ?? "");
  return (
    <>
      <Typography variant="h2">Cover</Typography>
      <Box role="group" aria-label="cover layers" sx={{ display: "flex", gap: 0.5, mt: 1 }}>
        {[0, 1, 2].map((n) => {
          const here = (cover?.layers ?? 0) === n;
          return <Button key={n} aria-pressed={here} variant={here ? "contained" : "outlined"} onClick={() => !here && sheets(n)}>{["open", "1 layer", "2 layers"][n]}</Button>;
        })}
      </Box>
      {cover && (
        <>
          <Row>
            <Choice
              label="Sheet" value={cover.material ?? "window-glass"} options={materials.covers.map((c) => ({ value: c.name, title: c.title }))}
              onChange={(material) => set({ material, thickness_m: usual(material)?.usual_thickness_m ?? 0.004 }, `cover of ${usual(material)?.title}`)}
            />
            <NumberField label="Thickness" value={cover.thickness_m ?? 0.004} quantity="length" problem={about("thickness_m")} onCommit={(thickness_m) => set({ thickness_m }, "cover thickness")} />
            {cover.layers === 2 && (
              <NumberField label="Gap between" value={cover.gap_m ?? 0.015} quantity="length" problem={about("gap_m")} onCommit={(gap_m) => set({ gap_m }, "cover gap")} />
            )}
          </Row>
          {row && <Typography variant="body2">Lasts to about {withUnit(row.top_service_c, "temperature", units)}. Source: {row.source}.</Typography>}
        </>
      )}
    </>
  );
}

function MirrorCard({ spec, materials, change, about }: CardProps) {
  const mirror = spec.mirror;
  if (!mirror) {
    return (
      <>
        <Typography variant="h2">Mirror</Typography>
        <Typography sx={{ my: 1 }}>No mirror on this box.</Typography>
        <Button variant="contained" onClick={() => change({ mirror: { material: "kitchen-foil", length_m: 0.45, angle_deg: 110 } }, "mirror added")}>Hinge one on</Button>
      </>
    );
  }
  const set = (next: Partial<typeof mirror>, note: string) => change({ mirror: { ...mirror, ...next } }, note);
  const row = materials.mirrors.find((m) => m.name === mirror.material);
  return (
    <>
      <Typography variant="h2">Mirror on the upper edge</Typography>
      <Row>
        <Choice label="Surface" value={mirror.material ?? "kitchen-foil"} options={materials.mirrors.map((m) => ({ value: m.name, title: m.title }))} onChange={(material) => set({ material }, "mirror surface")} />
        <NumberField label="Angle to the opening" value={mirror.angle_deg ?? 110} quantity="angle" hint="90° stands square on it" problem={about("angle_deg")} onCommit={(angle_deg) => set({ angle_deg }, "mirror angle")} />
        <NumberField label="Length" value={mirror.length_m ?? 0.45} quantity="length" problem={about("length_m")} onCommit={(length_m) => set({ length_m }, "mirror length")} />
        <Box><Button onClick={() => change({ mirror: null }, "mirror taken off")}>Take it off</Button></Box>
      </Row>
      {row && <Typography variant="body2">Throws on {Math.round(row.reflectance * 100)} of 100 W. Source: {row.source}.</Typography>}
    </>
  );
}

function FinishCard({ spec, materials, change, field, title }: CardProps & { field: "tray" | "lining"; title: string }) {
  const { units } = usePrefs();
  const name = spec[field] ?? (field === "tray" ? "flat-black-paint" : "aluminium-foil");
  const row = materials.absorbers.find((a) => a.name === name);
  return (
    <>
      <Typography variant="h2">{title}</Typography>
      <Row>
        <Choice label="Finish" value={name} options={materials.absorbers.map((a) => ({ value: a.name, title: a.title }))} onChange={(next) => change({ [field]: next }, `${field}: ${next}`)} />
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
          <Choice
            label={`Layer ${i + 1}`} value={layer.material} options={materials.layers.map((m) => ({ value: m.name, title: m.title }))}
            onChange={(material) => set(i, { material, thickness_m: materials.layers.find((m) => m.name === material)?.usual_thickness_m ?? layer.thickness_m }, `wall layer ${i + 1}: ${material}`)}
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
        <NumberField label="Vent as it is set" value={spec.vent_cm2 ?? 0} quantity="area_cm2" problem={about("vent_cm2")} onCommit={(vent_cm2) => change({ vent_cm2 }, "vent")} />
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
        <Choice label="Pot finish" value={load.pot_finish ?? "black-enamel"} options={materials.absorbers.map((a) => ({ value: a.name, title: a.title }))} onChange={(pot_finish) => set({ pot_finish }, "pot finish")} />
        <NumberField label="Pot across" value={load.pot_diameter_m ?? 0.2} quantity="length" problem={about("pot_diameter_m")} onCommit={(pot_diameter_m) => set({ pot_diameter_m }, "pot size")} />
        <NumberField label="Pot weighs" value={load.pot_kg ?? 0.9} quantity="mass" problem={about("pot_kg")} onCommit={(pot_kg) => set({ pot_kg }, "pot weight")} />
      </Row>
      <Button onClick={() => changeLoad(null, "pot taken out")}>Take the pot out</Button>
    </>
  );
}

const HOURS = Array.from({ length: 33 }, (_, k) => {
  const minutes = 5 * 60 + k * 30;
  const text = `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
  return { value: text, title: text };
});
