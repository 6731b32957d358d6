import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, asProblem, client, type Family, type Material, type Materials } from "../../api/client";
import { useNotices } from "../../look/notices";
import { Choice } from "../../parts/Choice";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";
import type { Quantity } from "../../look/units";

/** A material of one's own, begun from one on the shelf; what it may be is the core's to say, field by field. */

export const FAMILIES: Record<Family, { title: string; list: "absorbers" | "covers" | "mirrors" | "layers"; fields: [string, string, Quantity][] }> = {
  absorber: { title: "Finishes", list: "absorbers", fields: [["absorptance", "Takes up of the sun, 0–1", "plain"], ["emittance", "Gives off of a black body's heat, 0–1", "plain"]] },
  cover: {
    title: "Covers", list: "covers",
    fields: [
      ["index", "Refractive index", "plain"], ["extinction_per_m", "Extinction, 1/m", "plain"], ["longwave_transmittance", "Lets long-wave through, 0–1", "plain"],
      ["emittance", "Emittance, 0–1", "plain"], ["density_kg_m3", "Density, kg/m³", "plain"], ["cp_j_kgk", "Specific heat, J/kg·K", "plain"],
      ["conductivity_w_mk", "Conductivity, W/m·K", "plain"], ["usual_thickness_m", "Thickness of a skin", "length"], ["skins", "Skins, 1 or 2", "plain"], ["skin_gap_m", "Gap between skins", "length"],
    ],
  },
  mirror: { title: "Mirrors", list: "mirrors", fields: [["reflectance", "Throws on, 0–1", "plain"], ["slope_error_mrad", "Slope error, mrad", "plain"]] },
  layer: {
    title: "Insulation and structure", list: "layers",
    fields: [
      ["conductivity_w_mk", "Conductivity, W/m·K", "plain"], ["density_kg_m3", "Density, kg/m³", "plain"], ["cp_j_kgk", "Specific heat, J/kg·K", "plain"],
      ["usual_thickness_m", "Usual thickness", "length"], ["emittance", "Emittance of its face, 0–1", "plain"],
    ],
  },
};

type Draft = Record<string, string | number | boolean>;

function begun(from: Material, own: boolean): Draft {
  const row = { ...from } as Draft;
  return own ? row : { ...row, name: `own-${from.name}`, title: `My ${from.title.toLowerCase()}`, source: "" };
}

interface Props {
  family: Family;
  from: Material;
  own: Materials["own"][number] | null;
  onDone: () => void;
}

export function OwnMaterial({ family, from, own, onDone }: Props) {
  const cache = useQueryClient();
  const notices = useNotices();
  const [draft, setDraft] = useState<Draft>(() => begun(from, own !== null));
  const set = (field: string, value: string | number | boolean) => setDraft((old) => ({ ...old, [field]: value }));
  const save = useMutation({
    mutationFn: () => {
      // one of four bodies, each checked whole by the core
      const body = { [family]: draft } as never;
      if (own) return answered(client.PUT("/api/materials/{id}", { params: { path: { id: own.id } }, headers: { "If-Match": `"r${own.revision}"` }, body }));
      return answered(client.POST("/api/materials", { body }));
    },
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["materials"] });
      notices.say(`${String(draft.title)} is on the shelf.`);
      onDone();
    },
  });
  const problem = save.error ? asProblem(save.error) : null;
  const about = (field: string) => problem?.about(field);
  const placed = new Set(["name", "title", "source", "top_service_c", "price_m2", ...FAMILIES[family].fields.map(([field]) => field)]);
  return (
    <Box component="section" aria-label="own material" sx={(t) => ({ border: `1px solid ${t.ink.ink}`, p: 1.5, mb: 1.5 })}>
      <Typography variant="h2">{own ? `Change ${from.title}` : `One of your own, like ${from.title.toLowerCase()}`}</Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(220px, 1fr))", columnGap: 1.5, mt: 1 }}>
        <TextField label="What you call it" value={String(draft.title)} error={Boolean(about("title"))} helperText={about("title") ?? " "} onChange={(e) => set("title", e.target.value)} />
        <TextField label="Short name" value={String(draft.name)} error={Boolean(about("name"))} helperText={about("name") ?? "lower-case words joined by hyphens"} onChange={(e) => set("name", e.target.value)} />
        {FAMILIES[family].fields.map(([field, label, quantity]) => (
          <NumberField key={field} label={label} value={Number(draft[field])} quantity={quantity} problem={about(field)} onCommit={(value) => set(field, value)} />
        ))}
        <NumberField label="Lasts to" value={Number(draft.top_service_c)} quantity="temperature" problem={about("top_service_c")} onCommit={(value) => set("top_service_c", value)} />
        <NumberField label="Price per m²" value={Number(draft.price_m2)} quantity="plain" hint="0 for salvage" problem={about("price_m2")} onCommit={(value) => set("price_m2", value)} />
        <Choice label="Near food" value={draft.food_safe ? "yes" : "no"} options={[{ value: "yes", title: "fit near food" }, { value: "no", title: "not near food" }]} onChange={(next) => set("food_safe", next === "yes")} />
        <TextField label="Where the numbers come from" value={String(draft.source)} error={Boolean(about("source"))} helperText={about("source") ?? "maker's sheet, measured, guessed …"} onChange={(e) => set("source", e.target.value)} />
      </Box>
      {problem && !problem.fields.some((f) => placed.has(f.field.split(".").at(-1) ?? "")) && <Problem error={problem} />}
      <Button variant="contained" disabled={save.isPending} onClick={() => save.mutate()}>{own ? "Keep the change" : "Put it on the shelf"}</Button>
      <Button onClick={onDone} sx={{ ml: 1 }}>Leave it</Button>
    </Box>
  );
}
