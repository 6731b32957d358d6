import { Box, Button, Checkbox, FormControlLabel, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, asProblem, client, type Fit, type TrialView } from "../../../api/client";
import { buildQuery, fitQuery } from "../../../api/queries";
import { useNotices } from "../../../look/notices";
import { usePrefs } from "../../../look/prefs";
import { say } from "../../../look/units";
import { Problem } from "../../../parts/Problem";
import type { BuildState } from "../useBuild";

/** What the trial says of the twin's doubtful parameters, each with its interval; accepted, the forecasts use it. */
export function FitPanel({ trial, first, state }: { trial: TrialView; first: Fit; state: BuildState }) {
  const { units } = usePrefs();
  const notices = useNotices();
  const cache = useQueryClient();
  const [picked, setPicked] = useState<string[]>(first.parameters.map((p) => p.name));
  const same = picked.join() === first.parameters.map((p) => p.name).join();
  const again = useQuery({ ...fitQuery(trial.id, trial.mark, picked), enabled: !same && picked.length >= 2 });
  const fit = same ? first : (again.data ?? first);
  const build = state.build!;
  const refresh = () => {
    void cache.invalidateQueries({ queryKey: buildQuery(build.id).queryKey });
    void cache.invalidateQueries({ queryKey: ["yard"] });
  };
  const path = (part: number) => ({ params: { path: { id: build.id, part_id: part } } });
  const restore = useMutation({ mutationFn: (part: number) => answered(client.POST("/api/builds/{id}/calibration/{part_id}/restore", path(part))), onSuccess: refresh });
  const withdraw = useMutation({
    mutationFn: (part: number) => answered(client.POST("/api/builds/{id}/calibration/{part_id}/withdraw", path(part))),
    onSuccess: (_, part) => {
      refresh();
      notices.say("Taken back: forecasts follow the textbook again, or what was accepted before.", { label: "Bring it back", run: () => restore.mutate(part) });
    },
  });
  const accept = useMutation({
    mutationFn: () => answered(client.POST("/api/trials/{id}/accept", { params: { path: { id: trial.id } }, body: { parameters: picked, anyway: fit.first.length > 0 } })),
    onSuccess: (made) => {
      refresh();
      notices.say("Accepted: forecasts of this build use it from now on.", { label: "Take it back", run: () => withdraw.mutate(made.id) });
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const learnt = build.calibration;
  const toggle = (name: string, on: boolean) => setPicked(first.choices.map((c) => c.value).filter((n) => (n === name ? on : picked.includes(n))));
  return (
    <Box component="section" aria-label="what the twin learns" className="mt-2">
      <Typography variant="h2">What the twin learns</Typography>
      {again.error && <Problem error={again.error} />}
      <Box sx={{ opacity: again.isPlaceholderData ? 0.6 : 1 }}>
        {fit.parameters.map((p) => <ParameterRow key={p.name} parameter={p} />)}
        <Typography className="mt-1">{say(fit.words, units)}</Typography>
        {fit.warnings.map((w) => say(w, units)).filter((w) => !fit.parameters.some((p) => say(p.words, units) === w)).map((w) => <Typography key={w} className="ink-stop">{w}</Typography>)}
      </Box>
      {fit.first.length > 0 && (
        <Box role="group" aria-label="look at this first" className="border-left-6-stop on-raised p-1_5 my-1">
          {fit.first.map((w, k) => <Typography key={say(w, units)} className={k === 0 ? "weight-700" : ""}>{say(w, units)}</Typography>)}
        </Box>
      )}
      <Box className="no-print">
        <Box role="group" aria-label="parameters to fit" className="flex wrap mt-0_5">
          {first.choices.map((c) => (
            <FormControlLabel
              key={c.value} label={c.title}
              control={<Checkbox size="small" checked={picked.includes(c.value)} disabled={picked.includes(c.value) && picked.length <= 2} onChange={(_, on) => toggle(c.value, on)} />}
            />
          ))}
        </Box>
        <Box className="flex gap-1 wrap mt-0_5">
          {fit.first.length === 0
            ? <Button variant="contained" disabled={accept.isPending} onClick={() => accept.mutate()}>Accept for later forecasts</Button>
            : <Button disabled={accept.isPending} onClick={() => accept.mutate()}>I looked at that: accept it all the same</Button>}
          {learnt && <Button onClick={() => withdraw.mutate(learnt.id)}>Take back what “{learnt.trial_name}” taught</Button>}
        </Box>
        {learnt && <Typography variant="body2" className="mt-0_5">In force: “{learnt.trial_name}”, revision {learnt.build_revision}{learnt.older ? ", and the build was changed since: repeat the trial" : ""}.</Typography>}
      </Box>
    </Box>
  );
}

/** A factor on the textbook: a bar from its low to its high end on a doubling scale, the textbook in the middle. */
function ParameterRow({ parameter }: { parameter: Fit["parameters"][number] }) {
  const { units } = usePrefs();
  const place = (factor: number) => 50 + 50 * Math.max(-1, Math.min(1, Math.log2(factor) / 3));
  const [low, mid, high] = [place(parameter.low), place(parameter.value), place(parameter.high)];
  return (
    <Box className="mt-1">
      <Typography sx={{ fontWeight: parameter.departs ? 700 : 400 }}>{say(parameter.words, units)}</Typography>
      <Box aria-hidden className="position-relative height-14 border-bottom-1-rule">
        <Box className="position-absolute left-50pc top-0 bottom-0 border-left-1-dashed-ink" />
        <Box sx={(t) => ({ position: "absolute", insetInlineStart: `${low}%`, width: `${Math.max(high - low, 0.5)}%`, top: 5, height: 4, background: parameter.told ? t.ink.twin : t.ink.rule })} />
        <Box sx={(t) => ({ position: "absolute", insetInlineStart: `calc(${mid}% - 3px)`, top: 2, width: 6, height: 10, background: parameter.departs ? t.ink.stop : t.ink.twin })} />
      </Box>
    </Box>
  );
}
