import { Box, Button, Checkbox, FormControlLabel, Typography, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import type { Compared } from "../../api/client";
import { besideQuery, buildsQuery, type Beside } from "../../api/queries";
import { useDay, useLamp } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { Curves, Legend } from "../../parts/Curves";
import { Problem, Waiting } from "../../parts/Problem";
import { Drawn, scaleOf } from "../place/Drawn";
import { SKIES } from "../build/skies";
import { Apart } from "./Apart";
import { Slot } from "./Slot";
import { TakeOver } from "./TakeOver";

const MOST = 4;
const DAY_MS = 25 * 3_600_000;

/** Up to four builds, variants or trials under one sun: drawn to one scale, their curves, figures, prices, what differs, and why. */
export default function BesideScreen() {
  const { siteId, day } = useDay();
  const [search, setSearch] = useSearchParams();
  const builds = useQuery(buildsQuery(siteId)).data ?? [];
  const names = (search.get("of") ?? "").split(",").filter(Boolean);
  const oneLoad = search.get("load") === "one";
  const sky = (search.get("sky") || null) as Beside["sky"];
  const change = (more: Record<string, string>) =>
    setSearch((now) => { for (const [key, value] of Object.entries(more)) { if (value) now.set(key, value); else now.delete(key); } return now; }, { replace: true });
  const put = (k: number, name: string) => change({ of: (name ? names.with(k, name) : names.filter((_, j) => j !== k)).join(",") });
  const asked: Beside = { of: names.join(","), day, sky, one_load: oneLoad };
  const found = useQuery({ ...besideQuery(asked), enabled: names.length >= 2 });
  return (
    <Box className="p-2">
      <Typography variant="h1">Side by side</Typography>
      <Typography className="ink-soft">Builds, variants and trials under the sun of one day; the first is what the others are held against.</Typography>
      <Box className="flex wrap gap-1 mt-1">
        {names.map((name, k) => <Slot key={`${k}${name}`} name={name} first={k === 0} builds={builds} onChange={(to) => put(k, to)} />)}
        {names.length < MOST && <Box className="width-200"><Choice label={names.length === 0 ? "First" : "Beside it"} value="" options={[{ value: "", title: "choose a build …" }, ...builds.map((b) => ({ value: `b${b.id}`, title: b.name }))]} onChange={(to) => change({ of: [...names, to].join(",") })} /></Box>}
      </Box>
      <Box className="flex wrap gap-2 items-center">
        <Box className="width-200"><Choice label="Sky" value={sky ?? ""} options={[{ value: "", title: "as noted, or clear" }, ...SKIES]} onChange={(to) => change({ sky: to })} /></Box>
        <FormControlLabel control={<Checkbox checked={oneLoad} onChange={(e) => change({ load: e.target.checked ? "one" : "" })} />} label="all with what is in the first" />
        {found.data && <Button component="a" href={pageOf(asked)} download>Save as a page</Button>}
      </Box>
      {names.length < 2 ? <Typography className="mt-2">Choose two to four.</Typography> : found.error ? <Problem error={found.error} /> : !found.data ? <Waiting what="Standing them in the sun" /> : <Answer found={found.data} names={names} asked={asked} />}
    </Box>
  );
}

const pageOf = ({ of, day, sky, one_load }: Beside) => `/api/beside/page.html?${new URLSearchParams({ of, day, ...(sky ? { sky } : {}), ...(one_load ? { one_load: "true" } : {}) }).toString()}`;

function Answer({ found, names, asked }: { found: Compared; names: string[]; asked: Beside }) {
  const { units } = usePrefs();
  const scale = scaleOf(found.columns.map((c) => c.section), 260);
  return (
    <>
      <Box className="mt-1" aria-live="polite">
        {found.words.map((w, k) => <Typography key={k} className={k === 0 ? "weight-650 size-17" : ""}>{say(w, units)}</Typography>)}
      </Box>
      <Box className="grid gap-1 mt-1" sx={{ gridTemplateColumns: { xs: "minmax(0, 1fr) minmax(0, 1fr)", md: `repeat(${found.columns.length}, minmax(0, 1fr))` } }}>
        {found.columns.map((c, k) => (
          <Box key={names[k]} component="section" aria-label={c.name} className="border-1-rule p-1">
            <Drawn drawn={c.section} scale={scale} />
            <Typography variant="h2">{c.name}</Typography>
            <Typography variant="body2">{say(c.made, units)}</Typography>
            {c.said.length > 0 && <Typography className="weight-650">{say(c.said, units)}</Typography>}
          </Box>
        ))}
      </Box>
      <Chart found={found} />
      <Figures found={found} />
      <Apart names={names} titles={found.columns.map((c) => c.name)} asked={asked} />
      <TakeOver names={names} />
      <Differs found={found} />
    </>
  );
}

function Chart({ found }: { found: Compared }) {
  const { ink } = useTheme();
  const { site, domain } = useDay();
  const { lamp } = useLamp();
  const at = found.times.map((t) => Date.parse(t));
  const inkOf = (name: string) => ink[name as "rust"];
  const curves = found.columns.map((c) => ({ key: c.name, title: `${c.name}: ${c.judged}`, colour: inkOf(c.ink), width: 2.5, points: c.celsius.map((value, i) => ({ at: at[i]!, value })) }));
  const air = { key: "air", title: "air", colour: ink.soft, width: 1, dash: "4 3", points: found.air_c.map((value, i) => ({ at: at[i]!, value })) };
  const dots = found.columns.flatMap((c) => c.read.map((p) => ({ at: Date.parse(p.time), value: p.celsius, doubt: 0, colour: inkOf(c.ink), hollow: true, title: `${c.name}, read` })));
  return (
    <Box className="mt-1">
      <Curves label="temperatures side by side" domain={at[at.length - 1]! - at[0]! > DAY_MS || !domain ? [at[0]!, at[at.length - 1]!] : domain} lamp={lamp} zone={site.time_zone} lines={[...curves, air]} dots={dots} />
      <Legend lines={[...curves, air]} />
      {dots.length > 0 && <Typography variant="body2" className="ink-soft">Dots were read on the trial's own day, at the same hour; curves are the twin's under this one's sun.</Typography>}
    </Box>
  );
}

function Figures({ found }: { found: Compared }) {
  const { units } = usePrefs();
  return (
    <Box className="overflow-x-auto mt-1">
      <Box component="table" className="ruled" aria-label="figures side by side">
        <thead><tr><td />{found.columns.map((c) => <th key={c.name} scope="col">{c.name}</th>)}</tr></thead>
        <tbody>
          {found.figures.map((f) => (
            <tr key={f.title}>
              <th scope="row">{f.title}</th>
              {f.values.map((value, k) => {
                const [gap, doubt] = [f.gaps[k], f.doubts[k]];
                return (
                  <td key={k}>
                    {value === null ? "–" : withUnit(value, f.quantity, units, doubt == null ? {} : { doubt })}
                    {gap && <Box component="span" className={`display-block size-13 ${gap.real ? "weight-600" : "ink-soft"}`}>{withUnit(gap.value, f.quantity === "temperature" ? "difference" : f.quantity, units, { doubt: gap.doubt, signed: true })}{gap.real ? "" : ", too small to tell"}</Box>}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function Differs({ found }: { found: Compared }) {
  const { units } = usePrefs();
  if (found.lines.length === 0) return <Typography className="mt-2">They are alike in all that can be set.</Typography>;
  return (
    <Box component="section" aria-label="what differs" className="mt-2 overflow-x-auto">
      <Typography variant="h2">What differs in what they are</Typography>
      <Box component="table" className="ruled">
        <thead><tr><td />{found.columns.map((c) => <th key={c.name} scope="col">{c.name}</th>)}</tr></thead>
        <tbody>{found.lines.map((l) => <tr key={l.title}><th scope="row">{l.title}</th>{l.values.map((v, k) => <td key={k}>{say(v, units) || "–"}</td>)}</tr>)}</tbody>
      </Box>
      {found.more_lines > 0 && <Typography variant="body2">And {found.more_lines} more.</Typography>}
    </Box>
  );
}
