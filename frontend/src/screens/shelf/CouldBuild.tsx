import { Box, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answered, client, type Could, type Section } from "../../api/client";
import { useHeavy } from "../../api/heavy";
import { couldQuery, sheetsQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { scaleOf } from "../place/Drawn";
import { Offer } from "../place/Offer";

/** What the pile allows, drawn to one scale, the most worth first. */
export function CouldBuild() {
  return <Asked title="What could I build from this?" door="Try the pile on every build"><Found /></Asked>;
}

function Found() {
  const { siteId, day } = useDay();
  const { units } = usePrefs();
  const cache = useQueryClient();
  const navigate = useNavigate();
  const sheets = useQuery(sheetsQuery("site", siteId)).data;
  const found = useHeavy(couldQuery(siteId, day, JSON.stringify(sheets?.find((s) => s.name === "pile")?.rows ?? [])), sheets !== undefined);
  const begin = useMutation({
    mutationFn: (c: Could) => answered(client.POST("/api/wishes/begin", { body: { site_id: siteId, text: "", name: c.name, spec: c.spec, load: c.load } })),
    onSuccess: (build) => { void cache.invalidateQueries({ queryKey: ["builds"] }); void navigate(`/builds/${build.id}/make`); },
  });
  const drawings = (found.data?.found ?? []).map((f) => f.drawn as unknown as Section);
  return (
    <Box component="section" aria-label="what the pile allows">
      <Progress answer={found} what="Fitting the pile" />
      {begin.error && <Problem error={begin.error} />}
      {found.data?.words.map((w, k) => <Typography key={k}>{say(w, units)}</Typography>)}
      <Box className="grid columns-repeat-auto-fill-minmax-300px-1fr gap-2 mt-1">
        {(found.data?.found ?? []).map(({ could }, k) => (
          <Offer key={could.title} title={could.title} drawn={drawings[k]!} scale={scaleOf(drawings)} words={could.words} costs={could} pending={begin.isPending} onBegin={() => begin.mutate(could)} />
        ))}
      </Box>
    </Box>
  );
}
