import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useLayoutEffect, useMemo, useState, type ReactNode } from "react";
import { answered, ApiProblem, asProblem, client, type BuildView, type DayAnswer, type Load, type Outcome, type SkyState, type Spec, type TwinRequest } from "../../api/client";
import { buildQuery, dayQuery, knownQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { InTurn } from "../../look/inTurn";
import { kept, keep } from "../../look/prefs";
import { useNotices } from "../../look/notices";
import { undoing, useUnder } from "../../look/undo";
import { useLater } from "../../parts/Later";

/** A build as it is being worked on: the saved revision, the draft, the twin's answer to the draft, undo, and conflicts. */
export interface Draft {
  name: string;
  spot: string | null;
  spec: Spec;
  load: Load | null;
}

/** What is changed, or how it follows from the build as it stands when its turn has come. */
export type Change = Partial<Draft> | ((draft: Draft) => Partial<Draft>);

export interface BuildState {
  build: BuildView | undefined;
  draft: Draft | undefined;
  request: TwinRequest | undefined;
  outcome: Outcome | undefined;
  plan: DayAnswer["plan"];
  before: Outcome | undefined;
  stale: boolean;
  problem: ApiProblem | null;
  twinProblem: ApiProblem | null;
  error: Error | null;
  conflict: boolean;
  conflictBar: ReactNode;
  sky: ChosenSky[0];
  setSky: ChosenSky[1];
  weatherId: number | null;
  setWeatherId: (id: number | null) => void;
  preview: (change: Change) => void;
  save: (change: Change, note: string) => void;
  /** Save what the core makes of the build as it stands; what is changed meanwhile comes after it. */
  ask: (made: (draft: Draft) => Promise<Partial<Draft>>, note: string) => void;
}

export function draftOf(build: BuildView): Draft {
  return { name: build.name, spot: build.spot, spec: build.spec, load: build.load };
}

interface Asked {
  change: Partial<Draft>;
  note: string;
  made: Draft;
  step: ReturnType<typeof undoing.did>;
}

/** A build as it stands on its page, and its changes in their turn. */
class Standing extends InTurn {
  build: BuildView | undefined;
  draft: Draft | undefined;
  request: TwinRequest | undefined;

  /** Take a change up; gives what it sets and what that makes, none before there is a build. */
  take(change: Change): { set: Partial<Draft>; made: Draft; revision: number } | null {
    if (!this.build || !this.draft) return null;
    const set = typeof change === "function" ? change(this.draft) : change;
    this.draft = { ...this.draft, ...set };
    return { set, made: this.draft, revision: this.build.revision };
  }
}

const changeWords = (name: string, note: string) => `${name}: ${note}`;

/** Take back the last change of a build as it stands. */
export const undoBuild = ({ id, revision }: BuildView) =>
  answered(client.POST("/api/builds/{id}/undo", { params: { path: { id }, header: { "If-Match": `"r${revision}"` } } }));

/** None: as typed for the day, or usual and clear where nobody typed. */
export type ChosenSky = [SkyState | null, (sky: SkyState | null) => void];

export function useBuild(id: number, [sky, setSky]: ChosenSky): BuildState {
  const cache = useQueryClient();
  const { siteId, day } = useDay();
  const notices = useNotices();
  const saved = useQuery(buildQuery(id));
  const [held, setHeld] = useState<{ revision: number; draft: Draft } | null>(null);
  const [lost, setLost] = useState<Asked | null>(null);
  const [weatherId, setWeatherIdState] = useState<number | null>(() => kept<number | null>(`drylamp.weather.${siteId}`, null));
  const known = useQuery(knownQuery(siteId, day)).data;
  const [formerly, setFormerly] = useState<TwinRequest | undefined>(undefined);

  const build = saved.data;
  const draft = useMemo(() => (held && build && held.revision === build.revision ? held.draft : build && draftOf(build)), [held, build]);
  const calibration = build?.calibration?.id ?? null;
  const request = useMemo<TwinRequest | undefined>(
    () =>
      draft && {
        site_id: siteId, spot: draft.spot, spec: draft.spec, load: draft.load, day, sky,
        weather: weatherId !== null ? { kind: "stored", id: weatherId } : sky === null ? (known?.typed ?? null) : null, calibration,
      },
    [draft, siteId, day, sky, weatherId, calibration, known],
  );
  const answer = useQuery({ ...dayQuery(request ?? ({} as TwinRequest)), enabled: request !== undefined });
  const shown = useLater(answer.data);
  // What was asked before the last change: its answer is at hand, or comes, where somebody was quicker than the twin.
  const former = useQuery({ ...dayQuery(formerly ?? ({} as TwinRequest)), enabled: formerly !== undefined });

  const took = useCallback(
    (next: BuildView, written?: Draft) => {
      cache.setQueryData(buildQuery(id).queryKey, next);
      void cache.invalidateQueries({ queryKey: ["builds"] });
      void cache.invalidateQueries({ queryKey: ["yard"] });
      // What was typed since stays on top of the new revision: it is on its way, or about to be.
      setHeld((old) => (old && written && old.draft !== written ? { revision: next.revision, draft: old.draft } : null));
    },
    [cache, id],
  );
  const put = useMutation({
    // One write at a time, each against the revision that the one before it made.
    scope: { id: `build-${id}` },
    mutationFn: async ({ change, note }: Asked) => {
      const current = await cache.ensureQueryData(buildQuery(id));
      const body = { ...draftOf(current), ...change, note };
      return answered(client.PUT("/api/builds/{id}", { params: { path: { id }, header: { "If-Match": `"r${current.revision}"` } }, body }));
    },
    onSuccess: (next, asked) => took(next, asked.made),
    onError: (error, asked) => {
      if (asProblem(error).status !== 0) asked.step.forget();
      if (asProblem(error).status === 412) setLost(asked);
      else if (asProblem(error).status === 422) setHeld((old) => (old && old.draft === asked.made ? null : old));
      else if (asProblem(error).status === 0) notices.warn(asProblem(error).message, { label: "Send again", run: () => put.mutate(asked) });
    },
  });
  const back = useMutation({
    scope: { id: `build-${id}` },
    mutationFn: async () => undoBuild(await cache.ensureQueryData(buildQuery(id))),
    onSuccess: (next) => {
      took(next);
      notices.say("Undone.");
    },
    onError: (error) => notices.say(asProblem(error).message),
  });

  const standing = useStanding(build, draft, request);
  const { mutate: takeBack } = back;
  const undo = useCallback(() => standing.run(() => takeBack()), [standing, takeBack]);
  const preview = useCallback(
    (change: Change) => {
      const laid = standing.take(change);
      if (laid) setHeld({ revision: laid.revision, draft: laid.made });
      return laid;
    },
    [standing],
  );
  const { mutate } = put;
  const commit = useCallback(
    (change: Change, note: string, step: Asked["step"]) => {
      const laid = preview(change);
      if (!laid) return step.forget();
      const { request: before, build: was } = standing;
      if (before && was) setFormerly({ ...before, spec: was.spec, load: was.load, spot: was.spot });
      mutate({ change: laid.set, note, made: laid.made, step });
    },
    [standing, preview, mutate],
  );
  const begin = useCallback((note: string) => undoing.did(changeWords(standing.draft?.name ?? "", note), undo), [standing, undo]);
  const save = useCallback(
    (change: Change, note: string) => {
      const step = begin(note);
      if (standing.busy) preview(change); // seen at once, written in its turn
      standing.run(() => commit(change, note, step));
    },
    [standing, begin, preview, commit],
  );
  const { warn } = notices;
  const ask = useCallback(
    (made: (draft: Draft) => Promise<Partial<Draft>>, note: string) => {
      const step = begin(note);
      standing.run(async () => {
        try {
          commit(await made(standing.draft!), note, step);
        } catch (error) {
          step.forget();
          warn(asProblem(error).message);
        }
      });
    },
    [standing, begin, commit, warn],
  );
  useUnder(build && build.undoes !== null ? changeWords(build.name, build.undoes) : null, undo);

  const reload = async () => {
    setHeld(null);
    await cache.refetchQueries({ queryKey: buildQuery(id).queryKey });
  };
  const conflictBar = lost && (
    <Box role="alert" className="p-1_5 m-1 border-left-6-stop on-raised">
      <Typography>
        This build was changed in another window. Your change ({lost.note}) was not written and is kept here.
      </Typography>
      <Box className="flex gap-1 mt-1">
        <Button variant="contained" onClick={() => void reload().then(() => { const mine = lost; setLost(null); put.mutate({ ...mine, step: undoing.did(changeWords(mine.made.name, mine.note), undo) }); })}>Put mine on top</Button>
        <Button onClick={() => void reload().then(() => setLost(null))}>Take the other one</Button>
      </Box>
    </Box>
  );
  return {
    build,
    draft,
    request,
    outcome: shown?.outcome,
    plan: shown?.plan ?? [],
    before: former.isPlaceholderData ? undefined : former.data?.outcome,
    stale: answer.isPlaceholderData || answer.isFetching,
    problem: put.error && asProblem(put.error).status !== 412 ? asProblem(put.error) : null,
    twinProblem: answer.error ? asProblem(answer.error) : null,
    error: saved.error,
    conflict: lost !== null,
    conflictBar,
    sky,
    setSky,
    weatherId,
    setWeatherId: (next) => {
      keep(`drylamp.weather.${siteId}`, next);
      setWeatherIdState(next);
    },
    preview,
    save,
    ask,
  };
}

/** The build that is open as it was drawn last, for what comes later than the hand. */
function useStanding(build: BuildView | undefined, draft: Draft | undefined, request: TwinRequest | undefined): Standing {
  const [standing] = useState(() => new Standing());
  useLayoutEffect(() => {
    Object.assign(standing, { build, draft, request });
  }, [standing, build, draft, request]);
  return standing;
}
