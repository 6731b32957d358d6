import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { flowQuery } from "../../api/queries";
import { clockTime } from "../../look/clock";
import { useDay, useLamp } from "../../look/day";
import { LAMP_RESTS_MS, useSettled } from "../../look/useSettled";
import { usePrefs } from "../../look/prefs";
import { say, shown, withUnit } from "../../look/units";
import { FlowChart } from "../../parts/FlowChart";
import { Asked } from "../../parts/Asked";
import { Problem, Waiting } from "../../parts/Problem";
import type { BuildState } from "./useBuild";

/** A trickle or full flow: outlet, heat and efficiency at every flow at the chosen hour. */
export function FlowPanel({ state }: { state: BuildState }) {
  return <Asked title="How much flow?" door="Outlet and heat at every flow"><Flow state={state} /></Asked>;
}

function Flow({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { lamp } = useLamp();
  const { units } = usePrefs();
  const [table, setTable] = useState(false);
  const { data, error } = useQuery(flowQuery(state.request!, new Date(useSettled(lamp, LAMP_RESTS_MS)).toISOString()));
  if (error) return <Problem error={error} />;
  if (!data) return <Waiting what="Trying ten flows" />;
  const words = say(data.words, units);
  return (
    <Box>
      <Typography className="weight-650" aria-live="polite">At {clockTime(lamp, site.time_zone)}: {words}</Typography>
      <FlowChart curve={data} label={`outlet temperature and heat against flow. ${words}`} />
      <Button variant="text" aria-pressed={table} onClick={() => setTable(!table)}>{table ? "hide the numbers" : "flows as numbers"}</Button>
      {table && (
        <Box component="table" className="ruled">
          <thead><tr><th scope="col">a minute</th><th scope="col">comes out at</th><th scope="col">heat</th><th scope="col">of the sun</th></tr></thead>
          <tbody>
            {data.points.map((p) => (
              <tr key={p.l_min}><th scope="row">{withUnit(p.l_min, "flow", units)}</th><td>{withUnit(p.out_c, "temperature", units)}</td><td>{withUnit(p.gain_w, "power", units)}</td><td>{shown(p.of_sun_share, "share", units)} %</td></tr>
            ))}
          </tbody>
        </Box>
      )}
    </Box>
  );
}
