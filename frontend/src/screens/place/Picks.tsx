import { Box, Typography } from "@mui/material";
import { useState } from "react";
import type { components } from "../../api/schema";
import { Choice } from "../../parts/Choice";
import { NumberField } from "../../parts/NumberField";
import { monthWords } from "../../look/clock";
import { EVERY, MONTHS_IN_WISHES, sentenceOf, type Picked } from "./wishSentence";
import { named } from "../../look/names";

type Verb = components["schemas"]["VerbWords"];


/** The same wish picked word by word: what is picked is written into the sentence, which alone is read. */
export function Picks({ verbs, onSay }: { verbs: Verb[]; onSay: (text: string) => void }) {
  const [picked, setPicked] = useState<Picked>({ verb: "", good: "", amount: null, every: "once", month: "", budget: null, hours: null });
  const goods = verbs.find((v) => v.verb === picked.verb)?.goods ?? [];
  const good = goods.find((g) => g.name === picked.good);
  const pick = (change: Partial<Picked>) => {
    const next = { ...picked, ...change };
    if (change.verb !== undefined) Object.assign(next, { good: "", amount: null });
    if (change.good !== undefined) next.amount = goods.find((g) => g.name === change.good)?.usual ?? null;
    setPicked(next);
    const chosen = (verbs.find((v) => v.verb === next.verb)?.goods ?? []).find((g) => g.name === next.good);
    if (chosen) onSay(sentenceOf(next, chosen));
  };
  return (
    <Box component="details" className="mb-1">
      <Typography component="summary" className="cursor-pointer">Or pick the words</Typography>
      <Box className="grid columns-repeat-auto-fit-minmax-170px-1fr gap-1 mt-1">
        <Choice label="Do" value={picked.verb} options={[{ value: "", title: "…" }, ...verbs.map((v) => ({ value: v.verb, title: named(v.verb) }))]} onChange={(verb) => pick({ verb })} />
        <Choice label="To what" value={picked.good} options={[{ value: "", title: "…" }, ...goods.map((g) => ({ value: g.name, title: g.title }))]} onChange={(name) => pick({ good: name })} />
        <NumberField label="How much" value={picked.amount} quantity={good?.quantity ?? "mass"} onCommit={(amount) => pick({ amount })} onEmpty={() => pick({ amount: null })} />
        <Choice label="How often" value={picked.every} options={EVERY.map((e) => ({ value: e, title: named(e) }))} onChange={(every) => pick({ every })} />
        <Choice label="In" value={picked.month} options={[{ value: "", title: "this month" }, ...MONTHS_IN_WISHES.map((m, k) => ({ value: m, title: monthWords(k) }))]} onChange={(month) => pick({ month })} />
        <NumberField label="Up to" value={picked.budget} quantity="price" onCommit={(budget) => pick({ budget })} onEmpty={() => pick({ budget: null })} />
        <NumberField label="Hours of work" value={picked.hours} quantity="hours" onCommit={(hours) => pick({ hours })} onEmpty={() => pick({ hours: null })} />
      </Box>
    </Box>
  );
}
