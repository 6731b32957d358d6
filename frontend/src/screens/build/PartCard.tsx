import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { isBox, isBoxed, isDish, isFunnel, isMelter, type Boxed, type BoxOven, type Dish, type Funnel, type Load, type Spec } from "../../api/client";
import { materialsQuery } from "../../api/queries";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { MaterialChoice, rowOf } from "../../parts/MaterialChoice";
import { NumberField } from "../../parts/NumberField";
import { ownOf, Row, type CardProps } from "./card";
import { CoverCard } from "./CoverCard";
import { LoadCard } from "./LoadCards";
import { MirrorCard } from "./MirrorCard";
import { DishCard, FunnelBaseCard, FunnelSheetCard, StandCard } from "./MoreCards";
import type { BuildState } from "./useBuild";

/** One part's card: what it is made of and its numbers; every change is a revision that can be undone. */
const BOX_PARTS = [
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
const MELTER_PARTS = BOX_PARTS.map((p) => ({ ...p, title: { mirror: "Mirror lid", tray: "Floor", seal: "Seal", load: "Comb and wax" }[p.part] ?? p.title }));
const FUNNEL_PARTS = [{ part: "mirror", title: "Sheet" }, { part: "base", title: "Bottom and stand" }, { part: "load", title: "Pot and food" }, { part: "aim", title: "Aim and turning" }];
const DISH_PARTS = [{ part: "mirror", title: "Dish" }, { part: "load", title: "Pot and food" }, { part: "aim", title: "Aim and turning" }];

export function partsOf(spec: Spec): { part: string; title: string }[] {
  if (isMelter(spec)) return MELTER_PARTS;
  if (isFunnel(spec)) return FUNNEL_PARTS;
  return isDish(spec) ? DISH_PARTS : BOX_PARTS;
}

type Cards = Record<string, () => ReactNode>;

function boxCards(props: CardProps<Boxed>): Cards {
  const melter = isMelter(props.spec);
  return {
    cover: () => <CoverCard {...props} />,
    mirror: () => <MirrorCard {...props} />,
    tray: () => <FinishCard {...props} field="tray" title={melter ? "Floor: what the heap lies on" : "Tray: what the sun lands on"} />,
    lining: () => <FinishCard {...props} field="lining" title="Lining of the inner walls" />,
    wall: () => <WallCard {...props} />,
    box: () => <BoxCard {...props} />,
    seal: () => <SealCard {...props} />,
  };
}

export function PartCard({ part, state }: { part: string; state: BuildState }) {
  const { data: materials } = useQuery(materialsQuery);
  const draft = state.draft!;
  const spec = draft.spec;
  if (!materials) return null;
  const common = {
    load: draft.load, materials,
    change: (change: object, note: string) => state.save({ spec: { ...spec, ...change } as Spec }, note),
    changeLoad: (load: Load | null, note: string) => state.save({ load }, note),
    about: (field: string) => state.problem?.about(field),
  };
  const cards: Cards = {
    ...(isBoxed(spec) ? boxCards({ ...common, spec }) : {}),
    ...(isFunnel(spec) ? { mirror: () => <FunnelSheetCard {...common} spec={spec as Funnel} />, base: () => <FunnelBaseCard {...common} spec={spec as Funnel} /> } : {}),
    ...(isDish(spec) ? { mirror: () => <DishCard {...common} spec={spec as Dish} /> } : {}),
    load: () => <LoadCard {...common} spec={spec} />,
    aim: () => <StandCard {...common} spec={spec} />,
  };
  return <Box component="section" aria-label={`${part} card`} sx={{ minHeight: 190 }}>{(cards[part] ?? cards[partsOf(spec)[0]!.part]!)()}</Box>;
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
        {isBox(spec) && <Choice label="Shape" value={spec.shape ?? "box"} options={[{ value: "box", title: "box that tilts whole" }, { value: "wedge", title: "wedge, stands level" }]} onChange={(shape) => change({ shape: shape as "box" | "wedge" }, `shape: ${shape}`)} />}
        {isBox(spec) && <Choice label="Shelf" value={spec.shelf ?? "fixed"} options={[{ value: "fixed", title: "fixed, leans with the box" }, { value: "level", title: "swings level" }]} onChange={(shelf) => change({ shelf: shelf as "fixed" | "level" }, `shelf: ${shelf}`)} />}
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
        {isBox(spec) && <NumberField label="Vent, all of its opening" value={spec.vent_cm2 ?? 0} quantity="area_cm2" problem={about("vent_cm2")} onCommit={(vent_cm2) => change({ vent_cm2 }, "vent")} />}
        {isBox(spec) && (spec.vent_cm2 ?? 0) > 0 && (
          <Choice label="It stands" value={String(spec.vent_open ?? 1)} options={SETTINGS} onChange={(share) => change({ vent_open: Number(share) }, `vent set to ${share}`)} />
        )}
      </Row>
    </>
  );
}

const SETTINGS = [{ value: "0", title: "shut" }, { value: "0.25", title: "a quarter open" }, { value: "0.5", title: "half open" }, { value: "0.75", title: "three quarters open" }, { value: "1", title: "open" }];
