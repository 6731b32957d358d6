import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, asProblem, client, type Family, type FieldForm, type Material, type Materials } from "../../api/client";
import { useNotices } from "../../look/notices";
import { Choice } from "../../parts/Choice";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";

/** A material of one's own, begun from one on the shelf; what it may be is the core's to say, field by field. */

export const FAMILIES: Record<Family, { title: string; list: "absorbers" | "covers" | "mirrors" | "layers" }> = {
  absorber: { title: "Finishes", list: "absorbers" },
  cover: { title: "Covers", list: "covers" },
  mirror: { title: "Mirrors", list: "mirrors" },
  layer: { title: "Insulation and structure", list: "layers" },
};

type Draft = Record<string, string | number | boolean>;

function begun(from: Material, own: boolean): Draft {
  const row = { ...from } as Draft;
  return own ? row : { ...row, name: `own-${from.name}`, title: `My ${from.title.toLowerCase()}`, source: "" };
}

interface Props {
  family: Family;
  /** What may be typed into a row of the family. */
  fields: FieldForm[];
  from: Material;
  own: Materials["own"][number] | null;
  onDone: () => void;
}

export function OwnMaterial({ family, fields, from, own, onDone }: Props) {
  const cache = useQueryClient();
  const notices = useNotices();
  const [draft, setDraft] = useState<Draft>(() => begun(from, own !== null));
  const set = (field: string, value: string | number | boolean) => setDraft((old) => ({ ...old, [field]: value }));
  const save = useMutation({
    mutationFn: () => {
      // one of four bodies, each checked whole by the core
      const body = { [family]: draft } as never;
      if (own) return answered(client.PUT("/api/materials/{id}", { params: { path: { id: own.id }, header: { "If-Match": `"r${own.revision}"` } }, body }));
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
  const placed = new Set(fields.map((f) => f.name));
  return (
    <Box component="section" aria-label="own material" className="border-1-ink p-1_5 mb-1_5">
      <Typography variant="h2">{own ? `Change ${from.title}` : `One of your own, like ${from.title.toLowerCase()}`}</Typography>
      <Box className="grid columns-repeat-auto-fill-minmax-220px-1fr column-gap-1_5 mt-1">
        {[...fields].sort((a, b) => RANK.indexOf(a.name) - RANK.indexOf(b.name)).map((f) => <RowField key={f.name} field={f} value={draft[f.name]!} problem={about(f.name)} onSet={(value) => set(f.name, value)} />)}
      </Box>
      {"price_m2" in draft && <ByTheTin onPrice={(price) => set("price_m2", price)} />}
      {problem && !problem.fields.some((f) => placed.has(f.field.split(".").at(-1) ?? "")) && <Problem error={problem} />}
      <Button variant="contained" disabled={save.isPending} onClick={() => save.mutate()}>{own ? "Keep the change" : "Put it on the shelf"}</Button>
      <Button onClick={onDone} className="ml-1">Leave it</Button>
    </Box>
  );
}

/** A price by the tin: what it costs, what it covers and the coats make that of a square metre, worked out by the core's own sum. */
function ByTheTin({ onPrice }: { onPrice: (price: number) => void }) {
  const [tin, setTin] = useState<number | null>(null);
  const [covers, setCovers] = useState<number | null>(null);
  const [coats, setCoats] = useState(2);
  const ready = tin !== null && covers !== null;
  const sum = useQuery({
    queryKey: ["coat-price", tin, covers, coats],
    queryFn: () => answered(client.POST("/api/sums/{name}", { params: { path: { name: "coat-price" } }, body: { tin_price: tin, covers_m2: covers, coats } })),
    enabled: ready, retry: false,
  });
  const price = sum.data?.result.price_m2;
  return (
    <Box className="grid columns-repeat-auto-fill-minmax-220px-1fr column-gap-1_5">
      <NumberField label="A tin or bottle costs" value={tin} quantity="price" hint="then its price follows" onCommit={setTin} />
      <NumberField label="And covers, once" value={covers} quantity="area" hint="as its label says" onCommit={setCovers} />
      <NumberField label="Coats" value={coats} quantity="count" problem={sum.error ? asProblem(sum.error).message : undefined} onCommit={(n) => setCoats(Math.round(n))} />
      <Box><Button disabled={typeof price !== "number"} onClick={() => onPrice(Math.round(Number(price) * 100) / 100)}>{typeof price === "number" ? `Take ${Math.round(price * 100) / 100} for a square metre` : "Take that price"}</Button></Box>
    </Box>
  );
}

/** Names first, then the numbers as the core lists them. */
const RANK = ["source", "price_m2", "food_safe", "top_service_c", "name", "title"];
RANK.reverse();

function RowField({ field, value, problem, onSet }: { field: FieldForm; value: string | number | boolean; problem: string | undefined; onSet: (value: string | number | boolean) => void }) {
  if (field.sort === "number") return <NumberField label={field.title} value={Number(value)} quantity={field.quantity} hint={field.hint} problem={problem} onCommit={onSet} />;
  if (field.sort === "yes") return <Choice label="Near food" value={value ? "yes" : "no"} options={[{ value: "yes", title: "fit near food" }, { value: "no", title: "not near food" }]} onChange={(next) => onSet(next === "yes")} />;
  return <TextField label={field.title} value={String(value)} error={Boolean(problem)} helperText={problem ?? field.hint} onChange={(e) => onSet(e.target.value)} />;
}
