import { Box, Button, Typography } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answered, asProblem, client, isPortions, isPot, isWax, type Envelope, type Load, type Portions, type PotLoad, type Spec, type WaxBatch } from "../../api/client";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { MaterialChoice } from "../../parts/MaterialChoice";
import { NumberField } from "../../parts/NumberField";
import { hoursWith, ownOf, Row, type CardProps } from "./card";

/** What goes in: a pot of food, portions on the tray, or a batch of wax. */
export const NEW_LOAD: PotLoad = {
  kind: "pot", food: "water", food_kg: 1.5, start_c: 20, vessel: "thin-enamel", pot_kg: 0.9, pot_finish: "black-enamel", pot_diameter_m: 0.2,
  pot_height_m: 0.12, lid: "black", goes_in: "10:30",
};
export const NEW_PORTIONS: Portions = {
  kind: "portions", start_c: 20,
  portions: [
    { name: "one", title: "first portion", what: "milk-chocolate", mass_kg: 0.02, across: 0.25, up: 0.5, goes_in: "11:00" },
    { name: "two", title: "second portion", what: "milk-chocolate", mass_kg: 0.02, across: 0.75, up: 0.5, goes_in: "11:00" },
  ],
};
export const NEW_WAX: WaxBatch = { kind: "wax", material: "beeswax", form: "cappings", batch_kg: 1.5, strainer: "cloth", start_c: 18, goes_in: "09:30" };

type Props = CardProps<Spec>;

export function LoadCard(props: Props) {
  const { spec, load, changeLoad } = props;
  if (isPot(load)) return <PotCard {...props} load={load} />;
  if (isPortions(load)) return <PortionsCard {...props} load={load} />;
  if (isWax(load)) return <WaxCard {...props} load={load} />;
  const doors: [string, Load, string][] =
    spec.kind === "melter"
      ? [["Lay a batch in", NEW_WAX, "batch laid in"]]
      : spec.kind === "dish"
        ? [["Put a pot in", NEW_LOAD, "pot put in"]]
        : [["Put a pot in", NEW_LOAD, "pot put in"], ["Lay portions on the tray", NEW_PORTIONS, "portions laid in"]];
  return (
    <>
      <Typography variant="h2">{spec.kind === "melter" ? "Comb and wax" : "Pot and food"}</Typography>
      <Typography sx={{ my: 1 }}>{spec.kind === "melter" ? "Nothing is laid in." : spec.kind === "dish" ? "Nothing stands at the focus." : "The box stands empty."}</Typography>
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
        {doors.map(([words, next, note]) => <Button key={words} variant="contained" onClick={() => changeLoad(next, note)}>{words}</Button>)}
      </Box>
    </>
  );
}

function PotCard({ load, spec, materials, changeLoad, about }: Props & { load: PotLoad }) {
  const { units } = usePrefs();
  const notices = useNotices();
  const set = (next: Partial<PotLoad>, note: string) => changeLoad({ ...load, ...next }, note);
  const food = materials.foods.find((f) => f.name === load.food);
  const vessel = materials.vessels.find((v) => v.name === (load.vessel ?? "thin-enamel"));
  const tight = (vessel?.valve_c ?? 0) > 0;
  const swap = useMutation({
    mutationFn: (name: string) => answered(client.POST("/api/builds/vessel", { body: { load, vessel: name } })),
    onSuccess: (next) => changeLoad(next, `in ${materials.vessels.find((v) => v.name === next.vessel)?.title ?? "another pot"}`),
    onError: (error) => notices.warn(asProblem(error).message),
  });
  return (
    <>
      <Typography variant="h2">Pot and food</Typography>
      <Row>
        <Choice label="Food" value={load.food ?? "water"} options={materials.foods.map((f) => ({ value: f.name, title: f.title }))} onChange={(name) => set({ food: name, target_c: null, hold_minutes: null }, `food: ${name}`)} />
        <NumberField label="How much" value={load.food_kg ?? 1.5} quantity="mass" problem={about("food_kg") ?? about("load")} onCommit={(food_kg) => set({ food_kg }, "amount of food")} />
        <NumberField label="Goes in at" value={load.start_c ?? 20} quantity="temperature" problem={about("start_c")} onCommit={(start_c) => set({ start_c }, "start temperature")} />
        <Choice label="At" value={load.goes_in ?? "10:30"} options={hoursWith(load.goes_in ?? "10:30")} onChange={(goes_in) => set({ goes_in }, `goes in at ${goes_in}`)} />
        <NumberField label="Target" value={load.target_c ?? food?.target_c ?? 90} quantity="temperature" hint={food ? `${food.title}: ${withUnit(food.target_c, "temperature", units)}` : ""} problem={about("target_c")} onCommit={(target_c) => set({ target_c }, "target")} />
        <NumberField label="Held for" value={load.hold_minutes ?? food?.hold_minutes ?? 0} quantity="minutes" problem={about("hold_minutes")} onCommit={(hold_minutes) => set({ hold_minutes }, "holding time")} />
        <Choice label="Kind of pot" value={load.vessel ?? "thin-enamel"} options={materials.vessels.map((v) => ({ value: v.name, title: v.title }))} onChange={(name) => swap.mutate(name)} />
        <MaterialChoice label="Pot finish" value={load.pot_finish ?? "black-enamel"} rows={materials.absorbers} own={ownOf(materials, "absorber")} onChange={(pot_finish) => set({ pot_finish }, "pot finish")} />
        {!tight && <Choice label="Lid" value={load.lid ?? "black"} options={[{ value: "black", title: "black lid" }, { value: "clear", title: "clear lid" }, { value: "none", title: "no lid" }]} onChange={(lid) => set({ lid: lid as "black" | "clear" | "none" }, `${lid} lid`)} />}
        {tight && <NumberField label="Done after whistles" value={load.whistles ?? null} quantity="plain" hint="empty: by time at the valve" problem={about("whistles")} onCommit={(n) => set({ whistles: Math.round(n) }, `${Math.round(n)} whistles`)} />}
        <EnvelopeChoice under={load.under ?? null} fits={{ diameter_m: (load.pot_diameter_m ?? 0.2) + 0.04, height_m: (load.pot_height_m ?? 0.12) + 0.05 }} onChange={(under, note) => set({ under }, note)} problem={about("load")} />
        <NumberField label="Pot across" value={load.pot_diameter_m ?? 0.2} quantity="length" problem={about("pot_diameter_m")} onCommit={(pot_diameter_m) => set({ pot_diameter_m }, "pot size")} />
        <NumberField label="Pot high" value={load.pot_height_m ?? 0.12} quantity="length" problem={about("pot_height_m")} onCommit={(pot_height_m) => set({ pot_height_m }, "pot height")} />
        <NumberField label="Pot weighs" value={load.pot_kg ?? 0.9} quantity="mass" problem={about("pot_kg")} onCommit={(pot_kg) => set({ pot_kg }, "pot weight")} />
      </Row>
      {vessel && <Typography variant="body2">{vessel.title}. Source: {vessel.source}.{food?.source ? ` ${food.title}: ${food.source}.` : ""}</Typography>}
      <Box sx={{ display: "flex", gap: 1, mt: 0.5 }}>
        <Button onClick={() => changeLoad(null, "pot taken out")}>Take the pot out</Button>
        {spec.kind !== "dish" && <Button onClick={() => changeLoad(NEW_PORTIONS, "portions instead of a pot")}>Portions on the tray instead</Button>}
      </Box>
    </>
  );
}

const OVER: Record<string, { title: string; make: (size: { diameter_m: number; height_m: number }) => Envelope | null }> = {
  none: { title: "nothing over it", make: () => null },
  bag: { title: "an oven bag over it", make: (size) => ({ material: "oven-bag", thickness_m: 0.000025, ...size }) },
  bowl: { title: "a glass bowl over it", make: (size) => ({ material: "borosilicate-bowl", thickness_m: 0.005, ...size }) },
};

function EnvelopeChoice({ under, fits, onChange, problem }: { under: Envelope | null; fits: { diameter_m: number; height_m: number }; onChange: (next: Envelope | null, note: string) => void; problem?: string | undefined }) {
  const value = under === null ? "none" : (under.thickness_m ?? 0.005) > 0.001 ? "bowl" : "bag";
  return <Choice label="Bag or bowl" value={value} problem={problem} options={Object.entries(OVER).map(([name, o]) => ({ value: name, title: o.title }))} onChange={(name) => onChange(OVER[name]!.make(fits), OVER[name]!.title)} />;
}

function PortionsCard({ load, materials, changeLoad, about }: Props & { load: Portions }) {
  const [at, setAt] = useState(0);
  const here = load.portions[Math.min(at, load.portions.length - 1)]!;
  const set = (next: Partial<typeof here>, note: string) => changeLoad({ ...load, portions: load.portions.map((p) => (p === here ? { ...p, ...next } : p)) }, note);
  const add = () => {
    const number = load.portions.length + 1;
    let name = `portion-${number}`;
    while (load.portions.some((p) => p.name === name)) name += "-b";
    changeLoad({ ...load, portions: [...load.portions, { ...here, name, title: `portion ${number}`, across: 0.5, up: 0.25 }] }, "portion added");
    setAt(load.portions.length);
  };
  const row = materials.sweets.find((s) => s.name === (here.what ?? "milk-chocolate"));
  const { units } = usePrefs();
  return (
    <>
      <Typography variant="h2">Portions on the tray</Typography>
      <Box role="group" aria-label="portion" sx={{ display: "flex", gap: 0.5, my: 1, flexWrap: "wrap" }}>
        {load.portions.map((p, k) => <Button key={p.name} aria-pressed={p === here} variant={p === here ? "contained" : "outlined"} onClick={() => setAt(k)}>{p.title}</Button>)}
        {load.portions.length < 12 && <Button onClick={add}>+ one more</Button>}
      </Box>
      <Row>
        <Choice label="What" value={here.what ?? "milk-chocolate"} options={materials.sweets.map((s) => ({ value: s.name, title: s.title }))} onChange={(what) => set({ what }, `${here.title}: ${what}`)} />
        <NumberField label="How much" value={here.mass_kg ?? 0.02} quantity="mass" problem={about("mass_kg")} onCommit={(mass_kg) => set({ mass_kg }, `${here.title}, amount`)} />
        <NumberField label="Place from the left" value={here.across ?? 0.5} quantity="fraction" hint="0 left edge, 1 right edge" problem={about("across")} onCommit={(across) => set({ across }, `${here.title} moved`)} />
        <NumberField label="Place from the front" value={here.up ?? 0.5} quantity="fraction" hint="0 front, 1 back" problem={about("up")} onCommit={(up) => set({ up }, `${here.title} moved`)} />
        <Choice label="Goes in at" value={here.goes_in ?? "11:00"} options={hoursWith(here.goes_in ?? "11:00")} onChange={(goes_in) => set({ goes_in }, `${here.title} in at ${goes_in}`)} />
        <EnvelopeChoice under={load.under ?? null} fits={{ diameter_m: 0.24, height_m: 0.12 }} problem={about("under")} onChange={(under, note) => changeLoad({ ...load, under }, note)} />
      </Row>
      {row && <Typography variant="body2">Soft from {withUnit(row.soft_c, "temperature", units)}, melts from {withUnit(row.melting_low_c, "temperature", units)} to {withUnit(row.melting_high_c, "temperature", units)}, browns from {withUnit(row.browns_c, "temperature", units)}. Source: {row.source}.</Typography>}
      <Box sx={{ display: "flex", gap: 1, mt: 0.5 }}>
        <Button disabled={load.portions.length === 1} onClick={() => { setAt(0); changeLoad({ ...load, portions: load.portions.filter((p) => p !== here) }, `${here.title} taken out`); }}>Take {here.title} out</Button>
        <Button onClick={() => changeLoad(NEW_LOAD, "a pot instead of portions")}>A pot instead</Button>
      </Box>
    </>
  );
}

const FORMS = [{ value: "cappings", title: "cappings" }, { value: "old-comb", title: "old brood comb" }, { value: "blocks", title: "blocks and stubs" }];
const STRAINERS = [{ value: "none", title: "no strainer" }, { value: "mesh", title: "mesh" }, { value: "cloth", title: "cloth" }, { value: "paper", title: "paper" }];

function WaxCard({ load, materials, changeLoad, about }: Props & { load: WaxBatch }) {
  const { units } = usePrefs();
  const set = (next: Partial<WaxBatch>, note: string) => changeLoad({ ...load, ...next }, note);
  const row = materials.waxes.find((w) => w.name === (load.material ?? "beeswax"));
  return (
    <>
      <Typography variant="h2">Comb and wax</Typography>
      <Row>
        <Choice label="Wax" value={load.material ?? "beeswax"} options={materials.waxes.map((w) => ({ value: w.name, title: w.title }))} onChange={(material) => set({ material }, `wax: ${material}`)} />
        <Choice label="As" value={load.form ?? "cappings"} options={FORMS} onChange={(form) => set({ form: form as NonNullable<WaxBatch["form"]>, wax_share: null }, `as ${form}`)} />
        <NumberField label="Batch" value={load.batch_kg ?? 1.5} quantity="mass" problem={about("batch_kg")} onCommit={(batch_kg) => set({ batch_kg }, "batch")} />
        <NumberField label="Wax in it" value={load.wax_share ?? null} quantity="fraction" hint="empty: what is usual for it" problem={about("wax_share")} onCommit={(wax_share) => set({ wax_share }, "wax share")} />
        <Choice label="Strained through" value={load.strainer ?? "cloth"} options={STRAINERS} onChange={(strainer) => set({ strainer: strainer as NonNullable<WaxBatch["strainer"]> }, `strainer: ${strainer}`)} />
        <Choice label="Laid in at" value={load.goes_in ?? "09:30"} options={hoursWith(load.goes_in ?? "09:30")} onChange={(goes_in) => set({ goes_in }, `laid in at ${goes_in}`)} />
      </Row>
      {row && <Typography variant="body2">Melts from {withUnit(row.melting_low_c, "temperature", units)} to {withUnit(row.melting_high_c, "temperature", units)}, darkens above {withUnit(row.discolours_c, "temperature", units)}. Source: {row.source}.</Typography>}
      <Button onClick={() => changeLoad(null, "batch taken out")}>Take the batch out</Button>
    </>
  );
}
