import { Box, Button, Dialog, DialogContent, DialogTitle, Link, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link as RouterLink, useNavigate } from "react-router";
import { answered, asProblem, client, type BuildView, type RevisionView } from "../../api/client";
import { buildsQuery, revisionsQuery } from "../../api/queries";
import { counted } from "../../look/counted";
import { dateTimeWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { capital } from "../../look/words";
import { Typed } from "../../parts/Typed";
import { TakeOverButton } from "../beside/TakeOver";
import { draftOf, type BuildState } from "./useBuild";

/** A build's own life: its name, its variants, its history, and where it goes when it is done with. */
export function BuildLife({ state, open, onClose }: { state: BuildState; open: boolean; onClose: () => void }) {
  const build = state.build!;
  const { day } = useDay();
  const cache = useQueryClient();
  const notices = useNotices();
  const navigate = useNavigate();
  const again = () => void cache.invalidateQueries({ queryKey: ["builds"] });
  const path = { id: build.id };
  const header = { "If-Match": `"r${build.revision}"` };
  const failed = (error: Error) => notices.warn(asProblem(error).message);
  const copy = useMutation({
    mutationFn: () => answered(client.POST("/api/builds/{id}/variants", { params: { path }, body: { name: variantOf(build.name) } })),
    onSuccess: (made) => { again(); onClose(); void navigate(`/builds/${made.id}/make`); notices.say(`${made.name} branched off; change what you like, hold the two side by side, and take it over if it is better.`, { label: "Side by side", run: () => void navigate(besideOf(build, made)) }); },
    onError: failed,
  });
  const leave = (words: string, back: () => Promise<BuildView>) => {
    again();
    onClose();
    void navigate(`/sites/${build.site_id}/yard`);
    notices.done(words, () => void back().then(() => { again(); void navigate(`/builds/${build.id}/forecast`); }).catch(failed));
  };
  const away = useMutation({
    mutationFn: () => answered(client.POST("/api/builds/{id}/put-away", { params: { path, header } })),
    onSuccess: () => leave(`${build.name} is put away, with its trials; it waits under + new build.`, () => answered(client.POST("/api/builds/{id}/bring-back", { params: { path, header } }))),
    onError: failed,
  });
  const drop = useMutation({
    mutationFn: () => answered(client.DELETE("/api/builds/{id}", { params: { path, header } })),
    onSuccess: () => leave(`${build.name} is deleted.`, () => answered(client.POST("/api/builds/{id}/restore", { params: { path, header } }))),
    onError: failed,
  });
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>{build.name}</DialogTitle>
      <DialogContent>
        <Box className="mt-1 max-width-420"><Typed label="Name" value={build.name} onCommit={(name) => state.save({ name }, `renamed ${name}`)} /></Box>
        <Box className="flex wrap gap-1 mb-2">
          <Button variant="contained" disabled={copy.isPending} onClick={() => copy.mutate()}>Copy as a variant</Button>
          <Button component="a" href={`/api/builds/${build.id}/file`} download>Save as a file</Button>
          <Button component="a" href={`/api/builds/${build.id}/case.json?day=${day}`} download>Save this day as a case</Button>
          <Button disabled={away.isPending} onClick={() => away.mutate()}>Put it away</Button>
          <Button color="error" disabled={drop.isPending} onClick={() => drop.mutate()}>Delete it</Button>
        </Box>
        <Variants build={build} onClose={onClose} />
        <Typography variant="h2">What became of it</Typography>
        {open && <History state={state} />}
      </DialogContent>
    </Dialog>
  );
}

const besideOf = (one: BuildView, other: BuildView) => `/sites/${one.site_id}/beside?of=b${one.id},b${other.id}`;

/** What branched off it, and what it branched off itself. */
function Variants({ build, onClose }: { build: BuildView; onClose: () => void }) {
  const builds = useQuery(buildsQuery(build.site_id)).data ?? [];
  const base = builds.find((b) => b.id === build.variant_of);
  const variants = builds.filter((b) => b.variant_of === build.id);
  if (!base && variants.length === 0) return null;
  return (
    <Box component="section" aria-label="variants" className="mb-2">
      <Typography variant="h2">Variants</Typography>
      {base && (
        <Box className="flex wrap gap-1 items-center">
          <Typography>It branched off <Link component={RouterLink} to={`/builds/${base.id}/make`} onClick={onClose}>{base.name}</Link> at revision {build.variant_from}.</Typography>
          <Button component={RouterLink} to={besideOf(base, build)} onClick={onClose}>Side by side</Button>
          <TakeOverButton base={base} variant={build} onDone={onClose} />
        </Box>
      )}
      {variants.map((v) => (
        <Box key={v.id} className="flex wrap gap-1 items-center">
          <Link component={RouterLink} to={`/builds/${v.id}/make`} onClick={onClose}>{v.name}</Link>
          <Button component={RouterLink} to={besideOf(build, v)} onClick={onClose}>Side by side</Button>
        </Box>
      ))}
    </Box>
  );
}

/** "Hatbox oven", then "Hatbox oven, variant", "Hatbox oven, variant 2". */
function variantOf(name: string): string {
  const [, base, number] = /^(.*), variant(?: (\d+))?$/.exec(name) ?? [null, name, null];
  return base === name ? `${name}, variant` : `${base}, variant ${Number(number ?? 1) + 1}`;
}

function History({ state }: { state: BuildState }) {
  const build = state.build!;
  const rows = useQuery(revisionsQuery(build.id, build.revision)).data ?? [];
  return (
    <Box component="ol" className="no-marks pl-0 mt-0_5" aria-label="revisions, newest first">
      {rows.map((row) => <Revision key={row.revision} row={row} now={row.revision === build.revision} onBack={() => state.save(draftOf(row), `back to revision ${row.revision}`)} />)}
    </Box>
  );
}

function Revision({ row, now, onBack }: { row: RevisionView; now: boolean; onBack: () => void }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const changed = row.changed.map((words) => say(words, units));
  return (
    <Box component="li" className="flex gap-2 items-top border-top-1-rule py-0_5">
      <Box className="flex-1">
        <Typography><b>{row.revision}</b> {capital(row.note || (row.revision === 1 ? "begun" : "changed"))}{row.trials > 0 && `, tested in ${counted(row.trials, "trial")}`}</Typography>
        {changed.length > 0 && <Typography variant="body2">{changed.join("; ")}</Typography>}
        <Typography variant="body2" className="ink-soft">{dateTimeWords(row.created_at, site.time_zone)}</Typography>
      </Box>
      {now ? <Typography className="weight-650">as it is</Typography> : <Button aria-label={`Back to this: revision ${row.revision}`} onClick={onBack}>Back to this</Button>}
    </Box>
  );
}
