import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useHeavy } from "../../api/heavy";
import { answered, client, type BuildView, type Section, type Wish } from "../../api/client";
import { proposalsQuery, wishQuery, wishWordsQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { useSettled } from "../../look/useSettled";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { scaleOf } from "./Drawn";
import { Offer } from "./Offer";
import { Picks } from "./Picks";

const TYPED_RESTS_MS = 350;
const EXAMPLE = "dry 4 kg of figs a week in September, I have two panes 60 × 110, up to 90 €, a weekend of work";

/** The first door to a build: a wish in a sentence, read while it is typed, answered by drawn proposals. */
export function WishPanel({ onMade }: { onMade: (build: BuildView) => void }) {
  const { siteId } = useDay();
  const [text, setText] = useState("");
  const [asked, setAsked] = useState<string | null>(null);
  const settled = useSettled(text, TYPED_RESTS_MS).trim();
  const wish = useQuery({ ...wishQuery(siteId, settled), enabled: settled !== "" });
  const words = useQuery(wishWordsQuery).data ?? [];
  const heard = settled === "" ? undefined : wish.data;
  const ready = heard?.text.trim() === text.trim() && heard.good !== null;
  const ask = () => { if (ready) setAsked(text.trim()); };
  return (
    <Box component="section" aria-label="a wish">
      <Box component="form" className="flex gap-1 items-start wrap" onSubmit={(e) => { e.preventDefault(); ask(); }}>
        <Box className="flex-1 minw-240">
          <TextField label="Your wish" placeholder={EXAMPLE} value={text} multiline maxRows={4} onChange={(e) => setText(e.target.value.replaceAll("\n", " "))} onKeyDown={(e) => { if (e.key === "Enter") { e.preventDefault(); ask(); } }} helperText=" " slotProps={{ inputLabel: { shrink: true } }} />
        </Box>
        <Button type="submit" variant="contained" disabled={!ready} className="mt-0_5">Propose</Button>
      </Box>
      {wish.error && <Problem error={wish.error} />}
      {heard && <Heard wish={heard} />}
      <Picks verbs={words} onSay={setText} />
      {asked !== null && <Proposals key={asked} text={asked} onMade={onMade} />}
    </Box>
  );
}

/** What was taken for what, what was not understood, and what has to be said yet. */
function Heard({ wish }: { wish: Wish }) {
  const { units } = usePrefs();
  return (
    <Box role="status" aria-label="understood" className="mb-1">
      {wish.heard.length > 0 && (
        <Box component="ul" className="no-marks p-0 m-0 flex wrap gap-0_5">
          {wish.heard.map((h, k) => <li key={k} className="heard"><b>{h.words}</b>: {say(h.meaning, units)}</li>)}
        </Box>
      )}
      {wish.not_understood.length > 0 && <Typography className="border-left-6-stop pl-1 mt-0_5">Not understood, and left out: {wish.not_understood.map((w) => `“${w}”`).join(", ")}.</Typography>}
      {wish.ask.length > 0 && <Typography className="mt-0_5 weight-650">{say(wish.ask, units)}</Typography>}
    </Box>
  );
}

function Proposals({ text, onMade }: { text: string; onMade: (build: BuildView) => void }) {
  const { siteId, day } = useDay();
  const { units } = usePrefs();
  const found = useHeavy(proposalsQuery(siteId, day, text));
  const begin = useMutation({
    mutationFn: (p: NonNullable<typeof found.data>["proposals"][number]["proposal"]) => answered(client.POST("/api/wishes/begin", { body: { site_id: siteId, text, name: p.name, spec: p.spec, load: p.load } })),
    onSuccess: onMade,
  });
  const offers = found.data?.proposals ?? [];
  const drawings = offers.map((o) => o.drawn as unknown as Section);
  return (
    <Box aria-label="proposals" component="section" className="mt-1">
      {found.data && <Typography variant="h2">{say(found.data.said, units)}</Typography>}
      <Progress answer={found} what="Trying what would do it" />
      {begin.error && <Problem error={begin.error} />}
      {found.data?.words.map((w, k) => <Typography key={k} className="border-left-6-stop pl-1 my-1">{say(w, units)}</Typography>)}
      <Box className="grid columns-repeat-auto-fill-minmax-300px-1fr gap-2 mt-1">
        {offers.map(({ proposal }, k) => (
          <Offer key={proposal.title} title={proposal.title} drawn={drawings[k]!} scale={scaleOf(drawings)} words={proposal.words} costs={proposal} beyond={proposal.beyond} pending={begin.isPending} onBegin={() => begin.mutate(proposal)} />
        ))}
      </Box>
    </Box>
  );
}
