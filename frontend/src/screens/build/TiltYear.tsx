import { Box, Button } from "@mui/material";
import { tiltYearQuery } from "../../api/queries";
import { useHeavy } from "../../api/heavy";
import { MONTHS } from "../../look/clock";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { Words } from "./Words";
import type { BuildState } from "./useBuild";

/** The best tilt of every month, fixed marks beside it, and one for the whole year. */
export function TiltYear({ state }: { state: BuildState }) {
  const { units } = usePrefs();
  const asked = useHeavy(tiltYearQuery(state.request!));
  const { data, error } = asked;
  if (error) return <Problem error={error} />;
  if (!data) return <Progress answer={asked} what="Leaning it through the year" />;
  const degrees = (value: number) => withUnit(value, "angle", units);
  const share = (value: number) => withUnit(value, "share", units);
  const set = (tilt: number) => state.save(({ spec }) => ({ spec: { ...spec, tilt_deg: tilt } }), `tilted ${degrees(tilt)}`);
  return (
    <Box component="section" aria-label="its tilt by the month">
      <Words said={data.words} />
      <Button className="my-0_5" onClick={() => set(data.fixed_deg)}>Set {degrees(data.fixed_deg)} for the year</Button>
      <Box component="table" className="ruled">
        <thead><tr><th scope="col">month</th><th scope="col">best</th><th scope="col">as it stands</th>{data.marks_deg.map((mark) => <th key={mark} scope="col">at {degrees(mark)}</th>)}</tr></thead>
        <tbody>
          {data.months.map((m) => (
            <tr key={m.month}><th scope="row">{MONTHS[m.month - 1]}</th><td><b>{degrees(m.best_deg)}</b></td><td>{share(m.now_share)}</td>{m.marks.map((at) => <td key={at.tilt_deg}>{share(at.share)}</td>)}</tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
