import { Box } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import type { BuildView } from "../../api/client";
import { revisionsQuery, trialQuery, trialsQuery } from "../../api/queries";
import { Choice } from "../../parts/Choice";

interface Props {
  name: string;
  first: boolean;
  builds: BuildView[];
  onChange: (name: string) => void;
}

/** One of those that stand side by side: a build as it is or was, or one of its trials. */
export function Slot({ name, first, builds, onChange }: Props) {
  const trial = useQuery({ ...trialQuery(Number(name.slice(1))), enabled: name.startsWith("t") }).data;
  const id = trial?.build_id ?? (name.startsWith("b") ? Number(/\d+/.exec(name)?.[0]) : undefined);
  const build = builds.find((b) => b.id === id);
  const trials = useQuery({ ...trialsQuery(id ?? 0), enabled: id !== undefined }).data ?? [];
  const revisions = useQuery({ ...revisionsQuery(id ?? 0, build?.revision ?? 0), enabled: build !== undefined }).data ?? [];
  const states = [
    { value: `b${id}`, title: "as it is" },
    ...trials.map((t) => ({ value: `t${t.id}`, title: `trial: ${t.name}` })),
    ...revisions.filter((r) => r.revision !== build?.revision).map((r) => ({ value: `b${id}r${r.revision}`, title: `as at revision ${r.revision}` })),
  ];
  return (
    <Box className="width-200">
      <Choice label={first ? "First" : "Beside it"} value={id === undefined ? "" : `b${id}`} options={[{ value: "", title: "– away with it –" }, ...builds.map((b) => ({ value: `b${b.id}`, title: b.name }))]} onChange={onChange} />
      <Choice label="As" value={name} options={states} onChange={onChange} />
    </Box>
  );
}
