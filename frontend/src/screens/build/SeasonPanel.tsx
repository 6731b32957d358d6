import { Box, Typography, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { SheetView, WholeYear } from "../../api/client";
import { useHeavy } from "../../api/heavy";
import { sheetsQuery, sitesQuery, twoPlacesQuery, wholeYearQuery } from "../../api/queries";
import { useAccent } from "../../kinds";
import { MONTHS } from "../../look/clock";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Choice } from "../../parts/Choice";
import { Progress } from "../../parts/Progress";
import { Sheets } from "../../parts/Sheets";
import type { BuildState } from "./useBuild";

/** A year of the build: useful heat by month and hour, how often it gets done, what that is worth; another place beside it. */
export function SeasonPanel({ state }: { state: BuildState }) {
  return <Asked title="The year, and what it is worth" door="Month by month and hour by hour"><Year state={state} /></Asked>;
}

function Year({ state }: { state: BuildState }) {
  const [other, setOther] = useState("");
  const sites = (useQuery(sitesQuery).data ?? []).filter((s) => s.id !== state.request!.site_id);
  const use = useWritten(state.build!.id, state.build!.site_id);
  return (
    <Box>
      <OnePlace state={state} mark={use} site={state.request!.site_id} />
      <Sheets of="build" id={state.build!.id} only={["use"]} />
      {sites.length > 0 && <Box className="width-200"><Choice label="Beside it, the same at" value={other} options={[{ value: "", title: "no other place" }, ...sites.map((s) => ({ value: String(s.id), title: s.site.name }))]} onChange={setOther} /></Box>}
      {other !== "" && <OnePlace state={state} mark={use} site={Number(other)} elsewhere />}
      {other !== "" && <Between state={state} mark={use} there={Number(other)} />}
    </Box>
  );
}

/** The two places in words, once both years stand. */
function Between({ state, mark, there }: { state: BuildState; mark: string; there: number }) {
  const { units } = usePrefs();
  const found = useHeavy(twoPlacesQuery({ ...state.request!, weather: null, sky: null, build_id: state.build!.id, there }, mark)).data;
  return found ? <Box className="mt-1" aria-live="polite">{found.words.map((w, k) => <Typography key={k} className="weight-650">{say(w, units)}</Typography>)}</Box> : null;
}

/** What was written of its use and of the house, so that a change of it is asked about anew. */
function useWritten(id: number, siteId: number): string {
  const rows = (sheets: SheetView[] | undefined, name: string) => sheets?.find((s) => s.name === name)?.rows ?? [];
  const build = useQuery(sheetsQuery("build", id)).data;
  const site = useQuery(sheetsQuery("site", siteId)).data;
  return JSON.stringify([rows(build, "use"), rows(site, "house"), rows(site, "pile")]);
}

function OnePlace({ state, site, mark, elsewhere = false }: { state: BuildState; site: number; mark: string; elsewhere?: boolean }) {
  const { units } = usePrefs();
  const asked = useHeavy(wholeYearQuery({ ...state.request!, site_id: site, spot: elsewhere ? null : state.request!.spot, weather: null, sky: null, build_id: state.build!.id }, mark));
  const found = asked.data;
  return (
    <Box component="section" aria-label={found ? `the year at ${found.place}` : "the year"} className="mt-1">
      <Progress answer={asked} what="Months so far" />
      {found && (
        <>
          <Typography variant="h3">{found.place}</Typography>
          <Carpet season={found} state={state} />
          {found.words.map((w, k) => <Typography key={k} className={k === 0 ? "weight-650" : ""}>{say(w, units)}</Typography>)}
          {found.against.length > 0 && found.words.length > 0 && <Money season={found} />}
        </>
      )}
    </Box>
  );
}

const CELL = { wide: 38, high: 7, left: 34, top: 4 };
const HOURS = [4, 8, 12, 16, 20];

/** Twelve columns of hours, the darker the more useful heat; under each month how often it gets done. */
function Carpet({ season, state }: { season: WholeYear; state: BuildState }) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const accent = useAccent(state.draft!.spec);
  const most = Math.max(1, ...season.months.flatMap((m) => m.useful_w));
  const bottom = CELL.top + 24 * CELL.high;
  const width = CELL.left + 12 * CELL.wide;
  return (
    <svg viewBox={`0 0 ${width} ${bottom + 44}`} width="100%" style={{ maxWidth: 620 }} role="img" aria-label={`useful heat by month and hour at ${season.place}`}>
      {season.months.map((m) => (
        <g key={m.month} transform={`translate(${CELL.left + (m.month - 1) * CELL.wide} 0)`}>
          {m.useful_w.map((w, hour) => (
            <rect key={hour} x={1} y={CELL.top + hour * CELL.high} width={CELL.wide - 2} height={CELL.high - 0.6} fill={w > 0 ? accent : ink.raised} fillOpacity={w > 0 ? 0.08 + 0.92 * (w / most) : 1}>
              <title>{`${MONTHS[m.month - 1]} ${hour}:00, ${withUnit(w, "power", units)}, ${withUnit(m.celsius[hour]!, "temperature", units)}`}</title>
            </rect>
          ))}
          <text x={CELL.wide / 2} y={bottom + 13} textAnchor="middle" fontSize={11} fill={ink.ink}>{MONTHS[m.month - 1]!.slice(0, 3)}</text>
          <text x={CELL.wide / 2} y={bottom + 27} textAnchor="middle" fontSize={10.5} fill={ink.ink}>{m.goes === null ? "–" : `${Math.round(m.goes)}×`}</text>
          <text x={CELL.wide / 2} y={bottom + 40} textAnchor="middle" fontSize={10} fill={ink.soft}>{m.chance === null ? "" : `${Math.round(100 * m.chance)} %`}</text>
        </g>
      ))}
      {HOURS.map((h) => <text key={h} x={CELL.left - 4} y={CELL.top + h * CELL.high + 4} textAnchor="end" fontSize={10.5} fill={ink.soft}>{h}:00</text>)}
      <text x={CELL.left - 4} y={bottom + 27} textAnchor="end" fontSize={10} fill={ink.soft}>done</text>
      <text x={CELL.left - 4} y={bottom + 40} textAnchor="end" fontSize={10} fill={ink.soft}>days</text>
    </svg>
  );
}

function Money({ season }: { season: WholeYear }) {
  const { units } = usePrefs();
  const years = (v: number | null) => (v === null ? "never" : `${v} years`);
  return (
    <Box className="overflow-x-auto">
      <Box component="table" className="ruled" aria-label="what it saves">
        <thead><tr><th scope="col">heat</th><th scope="col">saved a year</th><th scope="col">from … to</th><th scope="col">won back in</th></tr></thead>
        <tbody>
          {season.against.map((a, k) => (
            <tr key={k}><th scope="row">{say(a.title, units)}{a.is_chosen && ", as used"}</th><td>{withUnit(a.saved, "price", units)}</td><td>{withUnit(a.low, "price", units)} … {withUnit(a.high, "price", units)}</td><td>{years(a.payback_years)}</td></tr>
          ))}
        </tbody>
      </Box>
      <Typography variant="body2">It has cost {withUnit(season.spent, "price", units)}, and costs {withUnit(season.running, "price", units)} a year. Prices of heat stand on the shelf under the house.</Typography>
    </Box>
  );
}
