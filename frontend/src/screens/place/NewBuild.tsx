import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState, type ReactNode } from "react";
import { useNavigate } from "react-router";
import { answered, asProblem, client, type BuildView, type Section, type Spec } from "../../api/client";
import { awayQuery, buildsQuery, examplesQuery, nowQuery, sitesQuery, startersQuery } from "../../api/queries";
import { KindGlyph, useKindOf } from "../../kinds";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { say, type Sentence } from "../../look/units";
import { Problem } from "../../parts/Problem";
import { SectionSketch } from "../../parts/section/SectionDrawing";
import { asSent } from "../../parts/sent";
import { WishPanel } from "./WishPanel";

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
  const kindOf = useKindOf();
  const sites = useQuery(sitesQuery).data ?? [];
  const mine = useQuery(buildsQuery(siteId)).data ?? [];
  const others = useQueries({ queries: sites.filter((s) => s.id !== siteId).map((s) => buildsQuery(s.id)) }).flatMap((q) => q.data ?? []);
  const builds = [...mine, ...others];
  const demo = useQuery(nowQuery).data?.is_demo ?? false;
  const wished = (spec: Spec) => wish === null || kindOf(spec).wish === wish;
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
    mutationFn: async (file: File) => answered(client.POST("/api/builds/from-file", { body: { site_id: siteId, ...(await asSent(file)) } })),
    onSuccess: made,
  });
  const begin = (draft: Draft) => add.mutate({ name: draft.name, spec: draft.spec, load: draft.load });
  const wishes = [...new Set((starters.data ?? []).map((s) => kindOf(s.starter.spec).wish))];
  return (
    <Box className="p-2">
      <Typography variant="h1">What do you want to build?</Typography>
      <Typography className="mb-1">Say it in a sentence, with what you have and what it may cost; or begin with a picture below. Every number can be changed on its drawing afterwards.</Typography>
      <WishPanel onMade={made} />
      <Typography variant="h2" className="mt-2 mb-1">Or with a picture</Typography>
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
      <Box component="details" className="mt-2">
      <Typography component="summary" variant="h2" className="display-list-item cursor-pointer">Or a copy of what stands here: {builds.filter((b) => wished(b.spec)).length}</Typography>
      {builds.filter((b) => wished(b.spec)).map((b) => (
        <Row key={b.id} spec={b.spec} words={<>A copy of <b>{b.name}</b>{b.site_id === siteId ? ", to change one thing and compare" : `, from ${sites.find((s) => s.id === b.site_id)?.site.name}`}</>}>
          <Button aria-label={`Begin with this: a copy of ${b.name}`} disabled={add.isPending} onClick={() => begin({ name: `${b.name}, copy`, spec: b.spec, load: b.load })}>Begin with this</Button>
        </Row>
      ))}
      </Box>
      <Box className="flex gap-2 items-center border-top-1-rule py-1 mt-2">
        <Typography className="flex-1">A build file that somebody gave you</Typography>
        <Button disabled={read.isPending} onClick={() => input.current?.click()}>Choose a file …</Button>
        <input ref={input} type="file" hidden accept=".json" aria-label="build file" onChange={(e) => { const file = e.target.files?.[0]; if (file) read.mutate(file); e.target.value = ""; }} />
      </Box>
      {!demo && <Examples wished={wished} pending={add.isPending} onBegin={begin} />}
      <Away siteId={siteId} />
    </Box>
  );
}

function Row({ spec, words, children }: { spec: Spec; words: ReactNode; children: ReactNode }) {
  return (
    <Box className="flex gap-2 items-center border-top-1-rule py-1">
      <KindGlyph spec={spec} />
      <Typography className="flex-1">{words}</Typography>
      {children}
    </Box>
  );
}

/** What stands in the made-up yard, for a yard of one's own. */
function Examples({ wished, pending, onBegin }: { wished: (spec: Spec) => boolean; pending: boolean; onBegin: (draft: Draft) => void }) {
  const examples = useQuery(examplesQuery).data ?? [];
  return (
    <Box component="details" className="mt-2">
      <Typography component="summary" variant="h2" className="display-list-item cursor-pointer">Or from the made-up yard</Typography>
      {examples.filter((e) => wished(e.spec)).map((e) => (
        <Row key={e.name} spec={e.spec} words={<><b>{e.name}</b>{e.note && `, ${e.note}`}</>}>
          <Button aria-label={`Begin with this: the made-up ${e.name}`} disabled={pending} onClick={() => onBegin(e)}>Begin with this</Button>
        </Row>
      ))}
    </Box>
  );
}

/** What was put away or deleted, to be brought back. */
function Away({ siteId }: { siteId: number }) {
  const cache = useQueryClient();
  const notices = useNotices();
  const navigate = useNavigate();
  const rows = useQuery(awayQuery(siteId)).data ?? [];
  const back = useMutation({
    mutationFn: async (b: BuildView) => {
      const asked = { params: { path: { id: b.id }, header: { "If-Match": `"r${b.revision}"` } } };
      const restored = b.deleted ? await answered(client.POST("/api/builds/{id}/restore", asked)) : b;
      return restored.removed ? answered(client.POST("/api/builds/{id}/bring-back", asked)) : restored;
    },
    onSuccess: (b) => { void cache.invalidateQueries({ queryKey: ["builds"] }); void cache.invalidateQueries({ queryKey: ["build", b.id] }); void navigate(`/builds/${b.id}/forecast`); },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  if (rows.length === 0) return null;
  return (
    <Box component="details" className="mt-2">
      <Typography component="summary" variant="h2" className="display-list-item cursor-pointer">Put away and deleted: {rows.length}</Typography>
      {rows.map((b) => (
        <Row key={b.id} spec={b.spec} words={<><b>{b.name}</b>, {b.deleted ? "deleted" : "put away"}; its trials are kept</>}>
          <Button aria-label={`Bring it back: ${b.name}`} disabled={back.isPending} onClick={() => back.mutate(b)}>Bring it back</Button>
        </Row>
      ))}
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
