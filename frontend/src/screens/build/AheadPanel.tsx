import { Box, Typography } from "@mui/material";
import { aheadQuery } from "../../api/queries";
import { useHeavy } from "../../api/heavy";
import { dayWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { useLines } from "../../look/inks";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Curves } from "../../parts/Curves";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { useKind } from "../../kinds";
import type { BuildState } from "./useBuild";

/** The week from the chosen day on, what stands over nights carried on. */
export function AheadPanel({ state }: { state: BuildState }) {
  return <Asked title="The days ahead" door="Seven days from this one on"><Days state={state} /></Asked>;
}

function Days({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const linesOf = useLines(useKind(state.draft!.spec).accent);
  const asked = useHeavy(aheadQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Running the days ahead" />;
  const at = data.times.map((t) => Date.parse(t));
  return (
    <Box>
      <Curves
        label="temperatures over the days ahead" domain={[at[0]!, at.at(-1)!]} zone={site.time_zone} lines={linesOf(data, at)} height={200}
        sun={data.level_sun_w_m2.map((value, i) => ({ at: at[i]!, value }))}
        target={data.target_c != null ? { value: data.target_c, text: withUnit(data.target_c, "temperature", units) } : null}
      />
      <Box component="table" className="ruled">
        <thead><tr><th scope="col">day</th><th scope="col">sun on level ground</th><th scope="col">what it comes to</th></tr></thead>
        <tbody>
          {data.days.map((d) => (
            <tr key={d.day}><th scope="row">{dayWords(d.day)}</th><td>{withUnit(d.sun_kwh_m2, "exposure", units)}</td><td>{say(d.words, units)}</td></tr>
          ))}
        </tbody>
      </Box>
      <Typography variant="body2" className="ink-soft mt-0_5">{say(data.weather, units)}.</Typography>
    </Box>
  );
}
