import { Box, Typography } from "@mui/material";
import { greyQuery } from "../../api/queries";
import { useHeavy } from "../../api/heavy";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import type { BuildState } from "./useBuild";

/** How warm it still is after one, two and three grey days. */
export function GreyPanel({ state }: { state: BuildState }) {
  return <Asked title="Grey days after it" door="What one, two, three of them leave"><Grey state={state} /></Asked>;
}

function Grey({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(greyQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Trying a week" />;
  const warm = (celsius: number) => withUnit(celsius, "temperature", units);
  return (
    <Box>
      <Typography className="weight-650" aria-live="polite">{say(data.words, units)}</Typography>
      <Box component="table" className="ruled">
        <thead><tr><th scope="col">evening</th><th scope="col">top</th><th scope="col">bottom</th><th scope="col">at {warm(data.warm_c)}</th><th scope="col">next morning</th></tr></thead>
        <tbody>
          {data.days.map((day) => (
            <tr key={day.grey_days}>
              <th scope="row">{day.grey_days === 0 ? "after sun" : `grey day ${day.grey_days}`}</th>
              <td>{warm(day.top_c)}</td><td>{warm(day.bottom_c)}</td><td>{withUnit(Math.round(day.warm_l), "volume", units)}</td><td>{day.morning_c === null ? "–" : warm(day.morning_c)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
