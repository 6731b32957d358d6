import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from "@mui/material";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { answered, asProblem, client, type Samples, type Materials, type Sample } from "../../api/client";
import { materialsQuery } from "../../api/queries";
import { useNotices } from "../../look/notices";
import { Choice } from "../../parts/Choice";
import { MaterialChoice } from "../../parts/MaterialChoice";
import { NumberField } from "../../parts/NumberField";
import { ownOf, Row } from "./card";
import { CoverCard } from "./CoverCard";
import type { BuildState } from "./useBuild";

/** The cards of a set of samples: each sample's finish, coats and price, the board, the cover, the size. */
export const SAMPLE_PARTS = [
  { part: "samples", title: "Samples" },
  { part: "board", title: "Board" },
  { part: "cover", title: "Cover" },
  { part: "size", title: "Sample size" },
  { part: "aim", title: "Stand" },
];

interface Props {
  spec: Samples;
  materials: Materials;
  change: (spec: Partial<Samples>, note: string) => void;
  about: (field: string) => string | undefined;
}

export function PartOfSamples({ part, state, onChoose }: { part: string; state: BuildState; onChoose: (part: string) => void }) {
  const { data: materials } = useQuery(materialsQuery);
  const spec = state.draft!.spec as Samples;
  if (!materials) return null;
  const props: Props = {
    spec, materials,
    change: (change, note) => state.save({ spec: { ...spec, ...change } }, note),
    about: (field) => state.problem?.about(field),
  };
  const cards: Record<string, () => ReactNode> = {
    samples: () => <SamplesCard {...props} onChoose={onChoose} />,
    board: () => <BoardCard {...props} />,
    cover: () => <GlassCard {...props} />,
    size: () => <SizeCard {...props} />,
    aim: () => <StandCard {...props} />,
  };
  const sample = part.startsWith("sample-") ? spec.samples[Number(part.slice(7))] : undefined;
  const card = sample ? <SampleCard {...props} index={Number(part.slice(7))} onChoose={onChoose} /> : (cards[part] ?? cards.samples!)();
  return <Box component="section" aria-label={`${part} card`} sx={{ minHeight: 190 }}>{card}</Box>;
}

function SamplesCard({ spec, change, onChoose }: Props & { onChoose: (part: string) => void }) {
  const notices = useNotices();
  const [seed, setSeed] = useState(1);
  const draw = useMutation({
    mutationFn: () => answered(client.POST("/api/builds/places", { body: { spec, seed } })),
    onSuccess: (drawn) => {
      setSeed(seed + 1);
      change({ samples: drawn.samples }, "places drawn by lot");
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const add = () => {
    const number = spec.samples.length + 1;
    change({ samples: [...spec.samples, { name: `sample-${number}`, title: `sample ${number}`, finish: "flat-black-paint", coats: 2, price_m2: 0, is_control: false }] }, "sample added");
  };
  return (
    <>
      <Typography variant="h2">Samples, as they lie</Typography>
      <Box component="ol" sx={{ pl: 2.5, my: 1 }}>
        {spec.samples.map((sample, k) => (
          <li key={sample.name}>
            <Button variant="text" onClick={() => onChoose(`sample-${k}`)} sx={{ p: 0.25, minWidth: 0 }}>{sample.title}</Button>
            <Typography component="span" variant="body2"> {sample.is_control ? "control" : `${sample.coats ?? 2} coat${sample.coats === 1 ? "" : "s"}`}{(sample.price_m2 ?? 0) > 0 && `, ${sample.price_m2} per m²`}</Typography>
          </li>
        ))}
      </Box>
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
        <Button onClick={() => draw.mutate()} disabled={draw.isPending}>Draw the places by lot</Button>
        <Button onClick={add} disabled={spec.samples.length >= 12}>Add a sample</Button>
      </Box>
      <Typography variant="body2" sx={{ mt: 1 }}>Equal places are not equal: an edge cools, a middle does not. Drawing lots keeps a habit from helping one finish.</Typography>
    </>
  );
}

function SampleCard({ spec, materials, change, about, index, onChoose }: Props & { index: number; onChoose: (part: string) => void }) {
  const sample = spec.samples[index]!;
  const set = (next: Partial<Sample>, note: string) => change({ samples: spec.samples.map((s, k) => (k === index ? { ...s, ...next } : s)) }, note);
  const control = (on: boolean) => change({ samples: spec.samples.map((s, k) => ({ ...s, is_control: on && k === index })) }, `control: ${sample.title}`);
  return (
    <>
      <Typography variant="h2">{sample.title}</Typography>
      <Row>
        <Typed label="Called" value={sample.title} onCommit={(title) => set({ title }, `sample called ${title}`)} problem={about(`samples.${index}.title`)} />
        <Typed label="Mark on its back" value={sample.name} onCommit={(name) => set({ name }, `sample marked ${name}`)} problem={about(`samples.${index}.name`)} hint="short, no blanks" />
        <MaterialChoice label="Finish" value={sample.finish} rows={materials.absorbers} own={ownOf(materials, "absorber")} onChange={(finish, row) => set({ finish }, `${sample.title}: ${row.title}`)} />
        <NumberField label="Coats" value={sample.coats ?? 2} quantity="plain" problem={about(`samples.${index}.coats`)} onCommit={(coats) => set({ coats: Math.round(coats) }, `${sample.title}: coats`)} />
        <NumberField label="Price per m² at these coats" value={sample.price_m2 ?? 0} quantity="plain" hint="primer included" problem={about(`samples.${index}.price_m2`)} onCommit={(price_m2) => set({ price_m2 }, `${sample.title}: price`)} />
      </Row>
      <FormControlLabel label="this is the control" control={<Checkbox size="small" checked={sample.is_control ?? false} onChange={(_, on) => control(on)} />} />
      <Box sx={{ display: "flex", gap: 1 }}>
        <Button onClick={() => onChoose("samples")}>All samples</Button>
        <Button disabled={spec.samples.length <= 2} onClick={() => { change({ samples: spec.samples.filter((_, k) => k !== index) }, `${sample.title} taken off`); onChoose("samples"); }}>Take it off</Button>
      </Box>
    </>
  );
}

/** A word that is kept as it is typed and handed over when left. */
function Typed({ label, value, onCommit, problem, hint }: { label: string; value: string; onCommit: (text: string) => void; problem?: string | undefined; hint?: string }) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed.trim() && typed.trim() !== value) onCommit(typed.trim());
    setTyped(null);
  };
  return (
    <TextField
      label={label} value={typed ?? value} error={Boolean(problem)} helperText={problem ?? hint ?? " "} onChange={(e) => setTyped(e.target.value)}
      onBlur={commit} onKeyDown={(e) => e.key === "Enter" && commit()}
    />
  );
}

const CONTACTS = [
  { value: "lying", title: "lying on it" },
  { value: "spacers", title: "on thin spacers" },
  { value: "stood-off", title: "on posts, free of it" },
];

function BoardCard({ spec, materials, change, about }: Props) {
  return (
    <>
      <Typography variant="h2">Board</Typography>
      <Typography variant="body2">A sunlit board heats the samples from below, and so hides their differences.</Typography>
      {spec.board.map((layer, i) => (
        <Row key={i}>
          <MaterialChoice label={`Layer ${i + 1}`} value={layer.material} rows={materials.layers} own={ownOf(materials, "layer")} onChange={(material, row) => change({ board: spec.board.map((b, k) => (k === i ? { material, thickness_m: row.usual_thickness_m } : b)) }, `board: ${row.title}`)} />
          <NumberField label="Thickness" value={layer.thickness_m} quantity="length" problem={about(`board.${i}.thickness_m`)} onCommit={(thickness_m) => change({ board: spec.board.map((b, k) => (k === i ? { ...b, thickness_m } : b)) }, "board thickness")} />
        </Row>
      ))}
      <Row>
        <MaterialChoice label="Its face" value={spec.board_finish ?? "bare-wood"} rows={materials.absorbers} own={ownOf(materials, "absorber")} onChange={(board_finish, row) => change({ board_finish }, `board face: ${row.title}`)} />
        <Choice label="The samples stand" value={spec.contact ?? "lying"} options={CONTACTS} onChange={(contact) => change({ contact: contact as "lying" | "spacers" | "stood-off" }, `samples ${contact}`)} />
        <NumberField label="Between samples" value={spec.spacing_m ?? 0.04} quantity="length" problem={about("spacing_m")} onCommit={(spacing_m) => change({ spacing_m }, "spacing")} />
        <NumberField label="Places in a row" value={spec.columns ?? 3} quantity="plain" problem={about("columns")} onCommit={(columns) => change({ columns: Math.round(columns) }, "columns")} />
      </Row>
    </>
  );
}

function GlassCard(props: Props) {
  const { spec, materials, change, about } = props;
  return (
    <>
      <CoverCard spec={{ cover: spec.cover ?? null }} materials={materials} change={change} about={about} />
      {spec.cover && (
        <Row>
          <NumberField label="Sample to cover" value={spec.air_space_m ?? 0.03} quantity="length" problem={about("air_space_m")} onCommit={(air_space_m) => change({ air_space_m }, "air space")} />
          <NumberField label="Mean gap round the cover" value={spec.seal_gap_mm ?? 0.5} quantity="gap_mm" problem={about("seal_gap_mm")} onCommit={(seal_gap_mm) => change({ seal_gap_mm }, "seal")} />
        </Row>
      )}
    </>
  );
}

function SizeCard({ spec, materials, change, about }: Props) {
  const disc = spec.shape === "disc";
  return (
    <>
      <Typography variant="h2">One sample</Typography>
      <Row>
        <Choice label="Shape" value={spec.shape ?? "plate"} options={[{ value: "plate", title: "plate or block" }, { value: "disc", title: "disc or lid" }]} onChange={(shape) => change({ shape: shape as "plate" | "disc" }, `shape: ${shape}`)} />
        <NumberField label={disc ? "Across" : "Width"} value={spec.width_m ?? 0.1} quantity="length" problem={about("width_m")} onCommit={(width_m) => change({ width_m }, "sample width")} />
        {!disc && <NumberField label="Length up the slope" value={spec.length_m ?? 0.1} quantity="length" problem={about("length_m")} onCommit={(length_m) => change({ length_m }, "sample length")} />}
        <MaterialChoice label="Made of" value={spec.sheet?.material ?? "sheet-steel"} rows={materials.layers} own={ownOf(materials, "layer")} onChange={(material, row) => change({ sheet: { material, thickness_m: row.usual_thickness_m } }, `samples of ${row.title}`)} />
        <NumberField label="Thickness" value={spec.sheet?.thickness_m ?? 0.0003} quantity="length" problem={about("sheet.thickness_m")} onCommit={(thickness_m) => change({ sheet: { material: spec.sheet?.material ?? "sheet-steel", thickness_m } }, "sample thickness")} />
        <Choice label="Its sides" value={spec.edges ?? "open"} options={[{ value: "open", title: "bare" }, { value: "wrapped", title: "insulated" }]} onChange={(edges) => change({ edges: edges as "open" | "wrapped" }, `sides ${edges}`)} />
      </Row>
    </>
  );
}

function StandCard({ spec, change, about }: Props) {
  return (
    <>
      <Typography variant="h2">How it stands</Typography>
      <Row>
        <NumberField label="Faces (from north, clockwise)" value={spec.facing_deg} quantity="angle" problem={about("facing_deg")} onCommit={(facing_deg) => change({ facing_deg }, "facing")} />
        <NumberField label="Tilt of the board" value={spec.tilt_deg ?? 0} quantity="angle" problem={about("tilt_deg")} onCommit={(tilt_deg) => change({ tilt_deg }, "tilt")} />
      </Row>
    </>
  );
}
