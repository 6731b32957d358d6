import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { useNavigate } from "react-router";
import { answered, client, type BoxOven, type BuildView, type Coupons, type Spec } from "../../api/client";
import { buildsQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { Problem } from "../../parts/Problem";
import { NEW_LOAD } from "../build/PartCard";

/** Doors to a new build: a plain box from what is at hand, a copy of one that stands here, or a file. */
type Start = { title: string; words: string; name: string; spec: Omit<BoxOven, "facing_deg"> | Omit<Coupons, "facing_deg">; load: BuildView["load"] };
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
