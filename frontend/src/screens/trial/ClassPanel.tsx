import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import type { TrialView } from "../../api/client";
import { classQuery } from "../../api/queries";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Problem } from "../../parts/Problem";

/** Whose box ran hottest, and why; a sheet to print for each child. */
export function ClassPanel({ trial }: { trial: TrialView }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const { data, error } = useQuery({ ...classQuery(trial.id, trial.mark), enabled: trial.boxes > 0 });
  if (trial.boxes === 0) return null;
  return (
    <Box component="section" aria-label="the class" className="mt-2">
      <Box className="flex wrap gap-1 items-center">
        <Typography variant="h2">{trial.boxes} boxes</Typography>
        <Button component="a" href={`/api/classes/${trial.id}/sheets.html`} download>Sheets to print</Button>
      </Box>
      {error && <Problem error={error} />}
      {data?.words.map((w, k) => <Typography key={k} className={k === 0 ? "weight-650" : ""}>{say(w, units)}</Typography>)}
      {data && data.lines.some((l) => l.readings > 0) && (
        <Box className="overflow-x-auto">
          <Box component="table" className="ruled" aria-label="ranking of the class">
            <thead><tr><th scope="col">rank</th><th scope="col">whose</th><th scope="col">hottest</th><th scope="col">against the class</th><th scope="col">by how it is built</th><th scope="col">by hand and aim</th></tr></thead>
            <tbody>
              {data.lines.map((l) => (
                <tr key={l.channel}>
                  <td>{l.rank ?? "–"}</td>
                  <th scope="row">{l.name}{l.differs.length > 0 && <Box component="span" className="display-block size-13 weight-400">{l.differs.map((d) => say(d, units)).join("; ")}</Box>}</th>
                  <td>{l.hottest_c === null ? "–" : `${withUnit(l.hottest_c, "temperature", units)}${l.hottest_at ? ` at ${clockTime(Date.parse(l.hottest_at), site.time_zone)}` : ""}`}</td>
                  <td>{l.over_k === null ? "–" : withUnit(l.over_k, "difference", units, { doubt: l.doubt_k ?? 0, signed: true })}</td>
                  <td>{l.explained_k === null ? "–" : withUnit(l.explained_k, "difference", units, { signed: true })}</td>
                  <td className={l.hands_real ? "weight-650" : "ink-soft"}>{l.hands_k === null ? "–" : withUnit(l.hands_k, "difference", units, { signed: true })}</td>
                </tr>
              ))}
            </tbody>
          </Box>
        </Box>
      )}
    </Box>
  );
}
