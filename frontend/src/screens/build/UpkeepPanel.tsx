import { Box, Typography } from "@mui/material";
import { repairsQuery } from "../../api/queries";
import { useHeavy } from "../../api/heavy";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { Sheets } from "../../parts/Sheets";
import { Words } from "./Words";
import type { BuildState } from "./useBuild";

/** The book of upkeep, and which of what wants work to mend first. */
export function UpkeepPanel({ state }: { state: BuildState }) {
  return (
    <Box>
      <Sheets of="build" id={state.build!.id} only={["upkeep"]} />
      <Asked title="What to mend first" door="Mend each thing in the twin"><Repairs state={state} /></Asked>
    </Box>
  );
}

function Repairs({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(repairsQuery(state.request!, state.build!.id));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Mending one thing after the other" />;
  return (
    <Box>
      <Words said={data.words} />
      {data.worn.map((w, k) => <Typography key={k} className="mt-0_5">{say(w, units)}</Typography>)}
      {data.lines.length > 0 && (
        <Box component="table" className="ruled" aria-label="what to mend first">
          <thead><tr><th scope="col">mend or change</th><th scope="col">gains</th><th scope="col">costs</th><th scope="col">work</th></tr></thead>
          <tbody>
            {data.lines.map((l) => (
              <tr key={say(l.title, units)}>
                <th scope="row">{say(l.title, units)}</th>
                <td>{l.real ? <b>{withUnit(l.gain, l.quantity, units, { doubt: l.doubt, signed: true })}</b> : `${withUnit(l.gain, l.quantity, units, { doubt: l.doubt, signed: true })}, too small to tell`}</td>
                <td>{l.price > 0 ? withUnit(l.price, "price", units) : "free"}</td><td>{l.work_hours > 0 ? withUnit(l.work_hours, "hours", units) : "–"}</td>
              </tr>
            ))}
          </tbody>
        </Box>
      )}
    </Box>
  );
}
