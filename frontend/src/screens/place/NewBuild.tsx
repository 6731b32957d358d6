import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answered, client, type BuildView, type Section, type Spec } from "../../api/client";
import { buildsQuery, kindsQuery, startersQuery } from "../../api/queries";
import { KindGlyph } from "../../kinds";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, type Sentence } from "../../look/units";
import { Problem } from "../../parts/Problem";
import { SectionSketch } from "../../parts/SectionDrawing";

/** Doors to a new build: something that is drawn here, a copy of one that stands here, or a file. */
interface Draft {
  name: string;
  spec: Spec;
  load: BuildView["load"];
}

export default function NewBuild() {
  const { siteId, site } = useDay();
  const navigate = useNavigate();
  const cache = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [wish, setWish] = useState<string | null>(null);
  const starters = useQuery(startersQuery(siteId));
  const kinds = useQuery(kindsQuery).data!.builds;
  const builds = useQuery(buildsQuery(siteId)).data ?? [];
  const wished = (spec: Spec) => wish === null || kinds.find((k) => k.name === spec.kind)!.wish === wish;
  const made = (build: BuildView) => {
    void cache.invalidateQueries({ queryKey: ["builds"] });
    void navigate(`/builds/${build.id}/make`);
  };
  const spot = site.spots[0]?.name ?? null;
  const add = useMutation({
    mutationFn: (draft: Draft) => answered(client.POST("/api/builds", { body: { site_id: siteId, spot, note: "", ...draft } })),
    onSuccess: made,
  });
  const read = useMutation({
    mutationFn: async (file: File) => answered(client.POST("/api/builds/from-file", { body: { site_id: siteId, name: file.name, text: await file.text() } })),
    onSuccess: made,
  });
  const begin = (draft: Draft) => add.mutate({ name: draft.name, spec: draft.spec, load: draft.load });
  const wishes = [...new Set(kinds.map((k) => k.wish))];
  return (
    <Box className="p-2">
      <Typography variant="h1">What do you want to build?</Typography>
      <Typography className="mb-1">It starts facing the noon sun; every number can be changed on its drawing afterwards.</Typography>
      <Box role="group" aria-label="I want to" className="flex wrap gap-1 items-center mb-1_5">
        <span>I want to</span>
        {wishes.map((w) => (
          <Button key={w} aria-pressed={wish === w} variant={wish === w ? "contained" : "outlined"} onClick={() => setWish(wish === w ? null : w)}>{w}</Button>
        ))}
      </Box>
      {(starters.error ?? add.error ?? read.error) && <Problem error={starters.error ?? add.error ?? read.error} />}
      <Box className="grid columns-repeat-auto-fill-minmax-300px-1fr gap-2">
        {(starters.data ?? []).filter((s) => wished(s.starter.spec)).map(({ starter, drawn }) => (
          // openapi-fetch widens pairs of numbers to lists; the document says pairs.
          <Begun key={starter.title} title={starter.title} words={starter.words} drawn={drawn as unknown as Section} pending={add.isPending} onBegin={() => begin(starter)} />
        ))}
      </Box>
      <Typography variant="h2" className="mt-2">Or from what there is</Typography>
      {builds.filter((b) => wished(b.spec)).map((b) => (
        <Box key={b.id} className="flex gap-2 items-center border-top-1-rule py-1">
          <KindGlyph spec={b.spec} />
          <Typography className="flex-1">A copy of <b>{b.name}</b>, to change one thing and compare</Typography>
          <Button aria-label={`Begin with a copy of ${b.name}`} disabled={add.isPending} onClick={() => begin({ name: `${b.name}, copy`, spec: b.spec, load: b.load })}>Begin with this</Button>
        </Box>
      ))}
      <Box className="flex gap-2 items-center border-top-1-rule py-1">
        <Typography className="flex-1">A build file that somebody gave you</Typography>
        <Button disabled={read.isPending} onClick={() => input.current?.click()}>Choose a file …</Button>
        <input ref={input} type="file" hidden accept=".json" aria-label="build file" onChange={(e) => { const file = e.target.files?.[0]; if (file) read.mutate(file); e.target.value = ""; }} />
      </Box>
    </Box>
  );
}

function Begun({ title, words, drawn, pending, onBegin }: { title: string; words: Sentence; drawn: Section; pending: boolean; onBegin: () => void }) {
  const { units } = usePrefs();
  return (
    <Box component="section" aria-label={title} className="flex column gap-1 border-1-rule p-1_5">
      <Box className="height-150"><SectionSketch section={drawn} /></Box>
      <Typography variant="h2">{title}</Typography>
      <Typography className="flex-1">{say(words, units)}</Typography>
      <Button className="align-self-start" variant="contained" disabled={pending} onClick={onBegin}>Begin with this</Button>
    </Box>
  );
}
