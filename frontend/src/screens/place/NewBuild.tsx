import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { useNavigate } from "react-router";
import { answered, client, type BuildView, type Spec } from "../../api/client";
import { buildsQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { Problem } from "../../parts/Problem";
import { NEW_LOAD, NEW_PORTIONS, NEW_WAX } from "../build/LoadCards";

/** Doors to a new build: a plain box from what is at hand, a copy of one that stands here, or a file. */
type WithoutFacing<S> = S extends unknown ? Omit<S, "facing_deg"> : never;
type Bare = WithoutFacing<Spec>;
type Start = { title: string; words: string; name: string; spec: Bare; load: BuildView["load"] };
const STARTS: Start[] = [
  {
    title: "Two cartons and newspaper", name: "Carton oven", load: NEW_LOAD,
    words: "Card inside card, 50 mm of crumpled paper between, one old window pane, foil on a flap. A day's work, next to nothing spent.",
    spec: {
      kind: "box-oven", tilt_deg: 15, width_m: 0.4, length_m: 0.4, height_m: 0.22, lining: "aluminium-foil", tray: "black-card",
      wall: [{ material: "corrugated-card", thickness_m: 0.006 }, { material: "crumpled-paper", thickness_m: 0.05 }, { material: "corrugated-card", thickness_m: 0.006 }],
      cover: { material: "window-glass", thickness_m: 0.004, layers: 1, gap_m: 0.015 }, mirror: { material: "kitchen-foil", length_m: 0.4, angle_deg: 110 }, seal_gap_mm: 1, vent_cm2: 0,
    },
  },
  {
    title: "Plywood box, two panes", name: "Plywood oven", load: NEW_LOAD,
    words: "Plywood outside, wool between, foil inside, two panes and a flap: keeps cooking under thin cloud.",
    spec: {
      kind: "box-oven", tilt_deg: 25, width_m: 0.5, length_m: 0.45, height_m: 0.25, lining: "aluminium-foil", tray: "flat-black-paint",
      wall: [{ material: "corrugated-card", thickness_m: 0.006 }, { material: "sheep-wool", thickness_m: 0.05 }, { material: "plywood", thickness_m: 0.009 }],
      cover: { material: "window-glass", thickness_m: 0.004, layers: 2, gap_m: 0.015 }, mirror: { material: "kitchen-foil", length_m: 0.45, angle_deg: 110 }, seal_gap_mm: 0.5, vent_cm2: 0,
    },
  },
  {
    title: "Card box with film", name: "Card box", load: NEW_PORTIONS,
    words: "One carton, foil inside, black card on the floor, clear film over it and one foil flap: an afternoon with children, two portions and a control.",
    spec: {
      kind: "box-oven", tilt_deg: 15, width_m: 0.38, length_m: 0.3, height_m: 0.16, lining: "aluminium-foil", tray: "black-card", tray_sheet: { material: "corrugated-card", thickness_m: 0.003 },
      wall: [{ material: "corrugated-card", thickness_m: 0.006 }], cover: { material: "polyester-film", thickness_m: 0.0001, layers: 1, gap_m: 0.015 },
      mirror: { material: "kitchen-foil", length_m: 0.3, angle_deg: 100 }, seal_gap_mm: 1, vent_cm2: 0,
    },
  },
  {
    title: "A funnel on a bucket", name: "Funnel", load: NEW_LOAD,
    words: "One foil sheet rolled round a bucket, a black pot on a trivet in it, a bag over the pot if you have one. Folds flat.",
    spec: { kind: "funnel", tilt_deg: 25, shape: "cone", sheet_width_m: 1.3, sheet_height_m: 0.85, sheet: { material: "corrugated-card", thickness_m: 0.004 }, mirror: "smooth-foil", throat_m: 0.27, flare_deg: 38, front_share: 0.6, base: "black-card", trivet_m: 0.03, stand_m: 0.3, turned_minutes: 60 },
  },
  {
    title: "A bowl on black paper", name: "Bowl and paper", load: { ...NEW_PORTIONS, under: { material: "borosilicate-bowl", thickness_m: 0.005, diameter_m: 0.24, height_m: 0.12 } },
    words: "No mirror at all: black paper on the table, a glass bowl over what is to get warm.",
    spec: { kind: "funnel", tilt_deg: 0, shape: "flat", sheet_width_m: 0.45, sheet_height_m: 0.35, sheet: { material: "corrugated-card", thickness_m: 0.004 }, mirror: "kitchen-foil", throat_m: 0.26, flare_deg: 32, front_share: 0.6, base: "black-card", trivet_m: 0, stand_m: 0, turned_minutes: null },
  },
  {
    title: "A dish with a pot at its focus", name: "Dish", load: NEW_LOAD,
    words: "Boils litres in minutes and blinds in moments: for people who stay beside it, turn it and wear dark goggles.",
    spec: { kind: "dish", tilt_deg: 25, diameter_m: 1.4, focal_m: 0.6, mirror: "anodised-sheet", surface: "fair", pot_offset_m: 0, turned_minutes: 20 },
  },
  {
    title: "A wax melter under an old window", name: "Melter", load: NEW_WAX,
    words: "A shallow box that slopes to a tray, a cloth across it, an old window on top: clean wax out of comb and cappings on sunny days.",
    spec: {
      kind: "melter", tilt_deg: 30, width_m: 0.5, length_m: 0.7, height_m: 0.12, lining: "bare-wood", tray: "galvanised", tray_sheet: { material: "sheet-steel", thickness_m: 0.0007 },
      wall: [{ material: "pine-board", thickness_m: 0.02 }], cover: { material: "old-window-glass", thickness_m: 0.003, layers: 1, gap_m: 0.015 }, mirror: null, seal_gap_mm: 0.8, turned_minutes: null,
    },
  },
  {
    title: "Painted lids on a board", name: "Tin lids", load: null,
    words: "Equal lids, one finish each and one left bare, side by side in the same sun: which runs hotter, is it real, and what does a kelvin cost?",
    spec: {
      kind: "coupons", tilt_deg: 15, shape: "disc", width_m: 0.1, sheet: { material: "sheet-steel", thickness_m: 0.0003 },
      samples: [
        { name: "bare", title: "bare", finish: "bright-steel", coats: 0, is_control: true },
        { name: "stove", title: "stove paint", finish: "flat-black-paint", coats: 2 },
        { name: "satin", title: "satin black", finish: "satin-black-paint", coats: 2 },
      ],
      columns: 3, spacing_m: 0.04, board: [{ material: "plywood", thickness_m: 0.012 }], board_finish: "bare-wood", contact: "lying",
    },
  },
  {
    title: "Blocks under glass", name: "Blocks", load: null,
    words: "Masonry blocks of three shades behind one pane, read through the afternoon and into dusk, and scaled to a wall of them.",
    spec: {
      kind: "coupons", tilt_deg: 70, width_m: 0.22, length_m: 0.11, sheet: { material: "brick-layer", thickness_m: 0.06 },
      samples: [
        { name: "natural", title: "natural", finish: "red-brick", coats: 0, is_control: true },
        { name: "pale", title: "pale", finish: "pale-paint", coats: 2 },
        { name: "dark", title: "dark", finish: "flat-black-paint", coats: 2 },
      ],
      columns: 3, spacing_m: 0.03, board: [{ material: "xps-foam", thickness_m: 0.04 }], board_finish: "bare-wood",
      cover: { material: "window-glass", thickness_m: 0.004, layers: 1 }, air_space_m: 0.03,
    },
  },
];

export default function NewBuild() {
  const { siteId, site } = useDay();
  const navigate = useNavigate();
  const cache = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const builds = useQuery(buildsQuery(siteId)).data ?? [];
  const made = (build: BuildView) => {
    void cache.invalidateQueries({ queryKey: ["builds"] });
    void navigate(`/builds/${build.id}/make`);
  };
  const facing = site.latitude_deg >= 0 ? 180 : 0;
  const spot = site.spots?.[0]?.name ?? null;
  const add = useMutation({
    mutationFn: (draft: { name: string; spec: Spec; load: BuildView["load"] }) =>
      answered(client.POST("/api/builds", { body: { site_id: siteId, spot, note: "", ...draft } })),
    onSuccess: made,
  });
  const read = useMutation({
    mutationFn: async (file: File) => answered(client.POST("/api/builds/from-file", { body: { site_id: siteId, name: file.name, text: await file.text() } })),
    onSuccess: made,
  });
  return (
    <Box sx={{ p: 2, maxWidth: 900 }}>
      <Typography variant="h1">A new build</Typography>
      <Typography sx={{ mb: 2 }}>It starts facing the noon sun; every number can be changed on its drawing afterwards.</Typography>
      {[...STARTS.map((s) => ({ ...s, spec: { ...s.spec, facing_deg: facing } as Spec })),
        ...builds.map((b) => ({ title: `A copy of ${b.name}`, name: `${b.name}, copy`, words: "To change one thing and compare.", spec: b.spec, load: b.load }))].map((start) => (
        <Box key={start.title} sx={(t) => ({ display: "flex", gap: 2, alignItems: "center", borderTop: `1px solid ${t.ink.rule}`, py: 1.25 })}>
          <Box sx={{ flex: 1 }}>
            <Typography variant="h2">{start.title}</Typography>
            <Typography>{start.words}</Typography>
          </Box>
          <Button variant="contained" disabled={add.isPending} onClick={() => add.mutate({ name: start.name, spec: start.spec, load: start.load })}>Begin with this</Button>
        </Box>
      ))}
      <Box sx={(t) => ({ display: "flex", gap: 2, alignItems: "center", borderTop: `1px solid ${t.ink.rule}`, py: 1.25 })}>
        <Box sx={{ flex: 1 }}>
          <Typography variant="h2">From a file</Typography>
          <Typography>A build file that somebody gave you.</Typography>
        </Box>
        <Button disabled={read.isPending} onClick={() => input.current?.click()}>Choose a file …</Button>
        <input ref={input} type="file" hidden accept=".json" aria-label="build file" onChange={(e) => { const file = e.target.files?.[0]; if (file) read.mutate(file); e.target.value = ""; }} />
      </Box>
      {(add.error ?? read.error) && <Problem error={add.error ?? read.error} />}
    </Box>
  );
}
