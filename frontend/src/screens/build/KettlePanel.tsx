import { Box } from "@mui/material";
import { boilsQuery, putOutQuery } from "../../api/queries";
import { useHeavy } from "../../api/heavy";
import { clockTime, MONTHS } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { Instead } from "./Instead";
import { Words } from "./Words";
import type { BuildState } from "./useBuild";

/** What is asked of a kettle: when to put it out, how long it takes month by month, and the kitchen's instead. */
export function KettlePanel({ state }: { state: BuildState }) {
  return (
    <>
      <Asked title="Hot by the hour" door="When to put it out, and how to set it up"><PutOut state={state} /></Asked>
      <Asked title="Minutes by the month" door="At each notch, around noon"><Boils state={state} /></Asked>
      <Asked title="The kitchen's instead" door="What it would take"><Instead state={state} heater="Kitchen kettle" watts={2000} /></Asked>
    </>
  );
}

function PutOut({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const asked = useHeavy(putOutQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Trying notches, wings and quarters of an hour" />;
  const degrees = (value: number) => withUnit(value, "angle", units);
  return (
    <Box>
      <Words said={data.words} />
      <Box component="table" className="ruled">
        <thead><tr><th scope="col">wanted</th><th scope="col">put out by</th><th scope="col">facing</th><th scope="col">notch</th><th scope="col">wings open</th><th scope="col">takes</th><th scope="col">then it is</th></tr></thead>
        <tbody>
          {data.rows.map((row) => (
            <tr key={row.wanted_at}>
              <th scope="row">{clockTime(row.wanted_at, site.time_zone)}</th><td><b>{row.latest ? clockTime(row.latest, site.time_zone) : "too weak a sun"}</b></td><td>{degrees(row.facing_deg)}</td>
              <td>{degrees(row.tilt_deg)}</td><td>{row.open_deg === null ? "–" : degrees(row.open_deg)}</td><td>{row.minutes === null ? "–" : withUnit(row.minutes, "minutes", units)}</td>
              <td>{withUnit(row.warmest_c, "temperature", units)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function Boils({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(boilsQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Trying each notch in each month" />;
  const degrees = (value: number) => withUnit(value, "angle", units);
  const takes = (minutes: number | null) => (minutes === null ? "–" : withUnit(minutes, "minutes", units));
  return (
    <Box>
      <Words said={data.words} />
      <Box component="table" className="ruled" aria-label="minutes by the month">
        <thead><tr><th scope="col">month</th>{data.marks_deg.map((mark) => <th key={mark} scope="col">{degrees(mark)}</th>)}<th scope="col">best tilt</th><th scope="col">then</th></tr></thead>
        <tbody>
          {data.months.map((m) => (
            <tr key={m.month}>
              <th scope="row">{MONTHS[m.month - 1]}</th>{m.marks.map((at) => <td key={at.tilt_deg}>{at.tilt_deg === quickest(m.marks) ? <b>{takes(at.minutes)}</b> : takes(at.minutes)}</td>)}
              <td>{m.best.minutes === null ? "–" : degrees(m.best.tilt_deg)}</td><td>{takes(m.best.minutes)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

/** The mark at which it takes least; none where it is never hot. */
function quickest(marks: { tilt_deg: number; minutes: number | null }[]): number | null {
  const hot = marks.filter((at) => at.minutes !== null);
  return hot.length === 0 ? null : hot.reduce((a, b) => (b.minutes! < a.minutes! ? b : a)).tilt_deg;
}
