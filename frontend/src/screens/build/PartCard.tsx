import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, client, type Kind, type Materials } from "../../api/client";
import { formsQuery, materialsQuery } from "../../api/queries";
import { useForm, useKind, useLoads } from "../../kinds";
import { capital } from "../../look/words";
import { SpecForm } from "../../parts/SpecForm";
import type { BuildState } from "./useBuild";
import { useEdit } from "./useEdit";

/** One part's card, made from what the core says of its fields; every change is a revision that can be undone. */
interface Props {
  part: string;
  /** The entry of a list that was pointed at in the drawing. */
  picked: number | null;
  state: BuildState;
}

/** What may be chosen of in a card, once its form is there, too. */
export function useWhatCardsAsk(): Materials | undefined {
  const { data: materials } = useQuery(materialsQuery);
  return useQuery(formsQuery).data && materials;
}

export function PartCard({ part, picked, state }: Props) {
  const materials = useWhatCardsAsk();
  const kind = useKind(state.draft!.spec);
  if (!materials) return null;
  const { title, note } = kind.parts.find((p) => p.part === part)!;
  return (
    <Box component="section" aria-label={`${title} card`} className="min-height-190">
      <Typography variant="h2">{capital(title)}</Typography>
      {note && <Typography variant="body2">{note}</Typography>}
      {part === "load" ? <LoadFields kind={kind} state={state} materials={materials} /> : <PartFields part={part} picked={picked} kind={kind} state={state} materials={materials} />}
    </Box>
  );
}

interface Inner {
  kind: Kind;
  state: BuildState;
  materials: Materials;
}

function PartFields({ part, picked, kind, state, materials }: Inner & { part: string; picked: number | null }) {
  const edit = useEdit(state, "spec");
  const fields = useForm("builds", kind.name).filter((f) => f.part === part);
  return (
    <>
      <SpecForm key={part} fields={fields} values={state.draft!.spec as unknown as Record<string, unknown>} edit={edit} materials={materials} picked={picked} title={capital(kind.parts.find((p) => p.part === part)!.title)} />
      {kind.actions.filter((a) => a.part === part).map((action) => <Act key={action.name} action={action} state={state} />)}
    </>
  );
}

function Act({ action, state }: { action: Kind["actions"][number]; state: BuildState }) {
  const [seed, setSeed] = useState(1);
  const act = () => {
    setSeed(seed + 1);
    state.ask(async ({ spec }) => ({ spec: (await answered(client.POST("/api/kinds/act", { body: { spec, action: action.name, seed } }))).spec }), action.note);
  };
  return (
    <Box className="mt-1_5">
      <Button onClick={act}>{action.title}</Button>
      <Typography variant="body2" className="mt-0_5">{action.why}</Typography>
    </Box>
  );
}

function LoadFields({ kind, state, materials }: Inner) {
  const edit = useEdit(state, "load");
  const doors = useLoads(kind);
  const { load } = state.draft!;
  const mine = doors.find((d) => d.name === load?.kind);
  const fields = useForm("loads", mine?.name);
  const others = doors.filter((d) => d !== mine);
  return (
    <>
      {mine ? (
        <SpecForm key={mine.name} fields={fields} values={load as unknown as Record<string, unknown>} edit={edit} materials={materials} picked={null} />
      ) : (
        <Typography className="my-1">{kind.empty}</Typography>
      )}
      <div className="keys">
        {mine && <Button onClick={() => state.save({ load: null }, "taken out")}>Take it out</Button>}
        {others.map((d) => (
          <Button key={d.name} variant={mine ? "outlined" : "contained"} onClick={() => state.save({ load: d.begun }, d.door.toLowerCase())}>{mine ? `${d.door} instead` : d.door}</Button>
        ))}
      </div>
    </>
  );
}
