import { Box, Button, Typography, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import type { ClassView, TrialView } from "../../api/client";
import { classQuery } from "../../api/queries";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Curves, Legend } from "../../parts/Curves";
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
      {data && data.lines.some((l) => l.readings > 0) && <ClassChart lines={data.lines} />}
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

/** Every box a line, those that ran hottest in front; each is named where the pointer rests on it and in the table below. */
function ClassChart({ lines }: { lines: ClassView["lines"] }) {
  const { ink } = useTheme();
  const { site } = useDay();
  const read = lines.filter((l) => l.read.length > 0).reverse(); // the hottest is drawn last, over the others
  const times = read.flatMap((l) => l.read.map((p) => Date.parse(p.time)));
  const drawn = read.map((l) => ({
    key: l.channel, title: l.name, colour: l.rank === 1 ? ink.rust : ink.soft, width: l.rank === 1 ? 2.5 : 1.2, points: l.read.map((p) => ({ at: Date.parse(p.time), value: p.celsius })),
  }));
  const dots = read.flatMap((l) => l.read.map((p) => ({ at: Date.parse(p.time), value: p.celsius, doubt: 0, colour: l.rank === 1 ? ink.rust : ink.soft, hollow: l.rank !== 1, title: `${l.name}, ${clockTime(p.time, site.time_zone)}` })));
  const first = drawn.filter((d) => d.colour === ink.rust);
  return (
    <Box className="mt-1">
      <Curves label="all boxes of the class" domain={[Math.min(...times) - 300_000, Math.max(...times) + 300_000]} zone={site.time_zone} lines={drawn} dots={dots} height={240} />
      <Legend lines={[...first, ...(first.length < drawn.length ? [{ key: "rest", title: "the other boxes", colour: ink.soft }] : [])]} />
    </Box>
  );
}
