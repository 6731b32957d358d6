import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { TrialView } from "../../../api/client";
import { changedQuery, compareQuery } from "../../../api/queries";
import { usePrefs } from "../../../look/prefs";
import { say } from "../../../look/units";
import { Asked } from "../../../parts/Asked";
import { Choice } from "../../../parts/Choice";
import { ExplainedTable } from "../../beside/Apart";
import { Problem, Waiting } from "../../../parts/Problem";

function Parts({ trial, control }: { trial: number; control: number }) {
  const { units } = usePrefs();
  const { data, error } = useQuery(changedQuery(trial, control));
  if (error) return <Problem error={error} />;
  if (!data) return <Waiting what="Making each change alone" />;
  return (
    <>
      <ExplainedTable found={data} />
      {data.cannot.length > 0 && <Typography>{say(data.cannot, units)}</Typography>}
    </>
  );
}

/** Another trial as control: the twin takes sun, air and wind of both days out of the difference. */
export function CompareTrials({ trial, others }: { trial: TrialView; others: TrialView[] }) {
  const { units } = usePrefs();
  const [other, setOther] = useState("");
  const control = others.find((t) => t.id === Number(other));
  const nodes = trial.channels.filter((c) => !c.is_control && control?.channels.some((o) => o.node === c.node));
  const [picked, setPicked] = useState("");
  const node = nodes.find((c) => c.node === picked)?.node ?? nodes[0]?.node ?? "";
  const found = useQuery({ ...compareQuery(trial.id, control?.id ?? 0, node), enabled: control !== undefined && node !== "" });
  if (others.length === 0) return null;
  return (
    <Box component="section" aria-label="against another trial" sx={{ mt: 2 }} className={control ? "" : "no-print"}>
      <Typography variant="h2">Against another trial</Typography>
      <Box className="grid columns-2fr-1fr gap-1 mt-1">
        <Choice label="Held against" value={other} options={[{ value: "", title: "choose a trial …" }, ...others.map((t) => ({ value: String(t.id), title: t.name }))]} onChange={setOther} />
        {nodes.length > 0 && <Choice label="Part" value={node} options={nodes.map((c) => ({ value: c.node, title: c.title }))} onChange={setPicked} />}
      </Box>
      {control && nodes.length === 0 && <Typography>The two trials read no part in common.</Typography>}
      {found.error && <Problem error={found.error} />}
      {found.data && control && <Typography aria-live="polite">{say(found.data.words, units)} {say(found.data.to_tell, units)}</Typography>}
      {control && (
        <Asked key={control.id} title="What made the difference" door="The part of each"><Parts trial={trial.id} control={control.id} /></Asked>
      )}
    </Box>
  );
}
