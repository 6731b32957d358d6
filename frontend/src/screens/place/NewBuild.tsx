import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { useNavigate } from "react-router";
import { answered, client, type BuildView, type Spec } from "../../api/client";
import { buildsQuery, startersQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { KindGlyph } from "../../kinds";
import { Problem } from "../../parts/Problem";

/** Doors to a new build: a plain box from what is at hand, a copy of one that stands here, or a file. */
export default function NewBuild() {
  const { siteId, site } = useDay();
  const { units } = usePrefs();
  const navigate = useNavigate();
  const cache = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const starters = useQuery(startersQuery(siteId));
  const builds = useQuery(buildsQuery(siteId)).data ?? [];
  const made = (build: BuildView) => {
    void cache.invalidateQueries({ queryKey: ["builds"] });
    void navigate(`/builds/${build.id}/make`);
  };
  const spot = site.spots[0]?.name ?? null;
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
    <Box className="p-2 max-width-900">
      <Typography variant="h1">A new build</Typography>
      <Typography className="mb-2">It starts facing the noon sun; every number can be changed on its drawing afterwards.</Typography>
      {[...(starters.data ?? []),
        ...builds.map((b) => ({ title: `A copy of ${b.name}`, name: `${b.name}, copy`, words: "To change one thing and compare.", spec: b.spec, load: b.load }))].map((start) => (
        <Box key={start.title} className="flex gap-2 items-center border-top-1-rule py-1_25">
          <KindGlyph spec={start.spec} />
          <Box className="flex-1">
            <Typography variant="h2">{start.title}</Typography>
            <Typography>{say(start.words, units)}</Typography>
          </Box>
          <Button variant="contained" disabled={add.isPending} onClick={() => add.mutate({ name: start.name, spec: start.spec, load: start.load })}>Begin with this</Button>
        </Box>
      ))}
      <Box className="flex gap-2 items-center border-top-1-rule py-1_25">
        <Box className="flex-1">
          <Typography variant="h2">From a file</Typography>
          <Typography>A build file that somebody gave you.</Typography>
        </Box>
        <Button disabled={read.isPending} onClick={() => input.current?.click()}>Choose a file …</Button>
        <input ref={input} type="file" hidden accept=".json" aria-label="build file" onChange={(e) => { const file = e.target.files?.[0]; if (file) read.mutate(file); e.target.value = ""; }} />
      </Box>
      {(starters.error ?? add.error ?? read.error) && <Problem error={starters.error ?? add.error ?? read.error} />}
    </Box>
  );
}
