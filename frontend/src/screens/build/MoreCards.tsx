import { Box, Typography } from "@mui/material";
import type { ReactNode } from "react";
import type { Dish, Funnel, Spec } from "../../api/client";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { MaterialChoice, rowOf } from "../../parts/MaterialChoice";
import { NumberField } from "../../parts/NumberField";
import { ownOf, Row, type CardProps } from "./card";

/** Cards of funnel and dish, and how anything that may be turned stands. */
const SHAPES = [{ value: "cone", title: "rolled to a cone" }, { value: "panels", title: "folded panels" }, { value: "flat", title: "flat black sheet, no mirror" }];
const SURFACES = [{ value: "smooth", title: "smooth, pressed or spun" }, { value: "fair", title: "fair, petals on ribs" }, { value: "rough", title: "rough, foil on card" }];

export function FunnelSheetCard({ spec, materials, change, about }: CardProps<Funnel>) {
  const row = rowOf(spec.mirror ?? "kitchen-foil", materials.mirrors);
  return (
    <>
      <Typography variant="h2">The sheet and how it is folded</Typography>
      <Row>
        <Choice label="Shape" value={spec.shape ?? "cone"} options={SHAPES} onChange={(shape) => change({ shape: shape as NonNullable<Funnel["shape"]> }, `shape: ${shape}`)} />
        <MaterialChoice label="Mirror" value={spec.mirror ?? "kitchen-foil"} rows={materials.mirrors} own={ownOf(materials, "mirror")} onChange={(mirror) => change({ mirror }, "mirror surface")} />
        <NumberField label="Sheet, wide" value={spec.sheet_width_m ?? 1.2} quantity="length" problem={about("sheet_width_m") ?? about("spec")} onCommit={(sheet_width_m) => change({ sheet_width_m }, "sheet width")} />
        <NumberField label="Sheet, high" value={spec.sheet_height_m ?? 0.8} quantity="length" problem={about("sheet_height_m")} onCommit={(sheet_height_m) => change({ sheet_height_m }, "sheet height")} />
        <NumberField label="Across the bottom" value={spec.throat_m ?? 0.26} quantity="length" problem={about("throat_m")} onCommit={(throat_m) => change({ throat_m }, "bottom")} />
        <NumberField label="Flare, wall from axis" value={spec.flare_deg ?? 32} quantity="angle" problem={about("flare_deg")} onCommit={(flare_deg) => change({ flare_deg }, `flare ${Math.round(flare_deg)}°`)} />
        {spec.shape === "panels" && <NumberField label="Front panel against the others" value={spec.front_share ?? 0.6} quantity="fraction" problem={about("front_share")} onCommit={(front_share) => change({ front_share }, "front panel")} />}
      </Row>
      {row && <Typography variant="body2">Throws on {Math.round(row.reflectance * 100)} of 100 W. Source: {row.source}.</Typography>}
    </>
  );
}

export function FunnelBaseCard({ spec, materials, change, about }: CardProps<Funnel>) {
  return (
    <>
      <Typography variant="h2">Bottom, trivet and stand</Typography>
      <Row>
        <MaterialChoice label="Finish of the bottom" value={spec.base ?? "black-card"} rows={materials.absorbers} own={ownOf(materials, "absorber")} onChange={(base) => change({ base }, "bottom")} />
        <NumberField label="Trivet, pot over the bottom" value={spec.trivet_m ?? 0.03} quantity="length" problem={about("trivet_m")} onCommit={(trivet_m) => change({ trivet_m }, "trivet")} />
        <NumberField label="Bucket or stand, high" value={spec.stand_m ?? 0.3} quantity="length" problem={about("stand_m")} onCommit={(stand_m) => change({ stand_m }, "stand")} />
      </Row>
    </>
  );
}

export function DishCard({ spec, materials, change, about }: CardProps<Dish>) {
  const row = rowOf(spec.mirror ?? "anodised-sheet", materials.mirrors);
  const { units } = usePrefs();
  return (
    <>
      <Typography variant="h2">The dish</Typography>
      <Row>
        <NumberField label="Across" value={spec.diameter_m ?? 1.4} quantity="length" problem={about("diameter_m") ?? about("spec")} onCommit={(diameter_m) => change({ diameter_m }, "dish across")} />
        <NumberField label="Focal length" value={spec.focal_m ?? 0.6} quantity="length" problem={about("focal_m")} onCommit={(focal_m) => change({ focal_m }, "focal length")} />
        <MaterialChoice label="Mirror" value={spec.mirror ?? "anodised-sheet"} rows={materials.mirrors} own={ownOf(materials, "mirror")} onChange={(mirror) => change({ mirror }, "mirror surface")} />
        <Choice label="Curve" value={spec.surface ?? "fair"} options={SURFACES} onChange={(surface) => change({ surface: surface as NonNullable<Dish["surface"]> }, `curve: ${surface}`)} />
        <NumberField label="Pot above the focus" value={spec.pot_offset_m ?? 0} quantity="length" problem={about("pot_offset_m")} onCommit={(pot_offset_m) => change({ pot_offset_m }, "pot height at the focus")} />
      </Row>
      {row && <Typography variant="body2">Throws on {Math.round(row.reflectance * 100)} of 100 W, lasts to about {withUnit(row.top_service_c, "temperature", units)}. Wash it before each use; dust and fingers cost a tenth (common practice, no source). Repaint the pot when it greys. Source: {row.source}.</Typography>}
    </>
  );
}

const HABITS = [15, 20, 30, 60, 120].map((m) => ({ value: String(m), title: `every ${m} min` }));

export function StandCard({ spec, change, about, extra }: CardProps<Spec> & { extra?: ReactNode }) {
  const turned = "turned_minutes" in spec ? (spec.turned_minutes ?? null) : undefined;
  const set = (next: { facing_deg?: number; tilt_deg?: number; turned_minutes?: number | null }, note: string) => change(next as Partial<Spec>, note);
  const options = [{ value: "", title: "left as it stands" }, ...(turned && !HABITS.some((h) => h.value === String(turned)) ? [{ value: String(turned), title: `every ${turned} min` }] : []), ...HABITS];
  return (
    <>
      <Typography variant="h2">How it stands</Typography>
      <Row>
        <NumberField label="Faces (from north, clockwise)" value={spec.facing_deg} quantity="angle" problem={about("facing_deg")} onCommit={(facing_deg) => set({ facing_deg }, "facing")} />
        <NumberField label={spec.kind === "funnel" || spec.kind === "dish" ? "Axis leans from upright" : "Tilt of the opening"} value={spec.tilt_deg ?? 30} quantity="angle" problem={about("tilt_deg")} onCommit={(tilt_deg) => set({ tilt_deg }, "tilt")} />
        {turned !== undefined && (
          <Choice label="Turned to the sun" value={turned === null ? "" : String(turned)} options={options} onChange={(value) => set({ turned_minutes: value === "" ? null : Number(value) }, value === "" ? "left as it stands" : `turned every ${value} min`)} />
        )}
        {extra}
      </Row>
      <Box sx={{ mt: 0.5 }}>
        <Typography variant="body2">How to point it without looking at the sun, and what turning is worth, stand under “aim”.</Typography>
      </Box>
    </>
  );
}
