import { Box, Button, Typography, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import type { Verdict } from "../../api/client";
import { trialQuery, trialsQuery, verdictQuery } from "../../api/queries";
import { clockTime, dateTimeWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { inUserUnits, kelvins, withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { Legend } from "../../parts/Curves";
import { Problem, Waiting } from "../../parts/Problem";
import { GUTTER, timeScale } from "../../parts/timeScale";
import { TrialChart, trialDomain } from "../../parts/TrialChart";
import { useWidth } from "../../parts/useWidth";
import { useCurveColours } from "./ForecastStage";
import type { BuildState } from "./useBuild";

/** A page to read: one sentence, a few figures with their doubt, readings beside the twin, what to change, how sure. */
export function VerdictStage({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const [params, setParams] = useSearchParams();
  const { data: trials } = useQuery(trialsQuery(state.build!.id));
  const read = (trials ?? []).filter((t) => t.reading_count > 0);
  const chosen = read.find((t) => t.id === Number(params.get("trial"))) ?? read.find((t) => t.ended !== null) ?? read[0];
  const trial = useQuery({ ...trialQuery(chosen?.id ?? 0), enabled: chosen !== undefined }).data;
  const verdict = useQuery({ ...verdictQuery(chosen?.id ?? 0, chosen?.reading_count ?? 0), enabled: chosen !== undefined });
  if (!trials) return <Waiting what="Opening the log" />;
  if (!chosen) return <Typography sx={{ p: 2 }}>No readings yet: start a trial, and the verdict follows.</Typography>;
  const pick = (id: string) => setParams((old) => { const next = new URLSearchParams(old); next.set("trial", id); return next; }, { replace: true });
  return (
    <Box sx={{ p: 2 }}>
      <Box className="no-print" sx={{ display: "flex", gap: 1, maxWidth: 560 }}>
        <Choice label="Trial" value={String(chosen.id)} options={read.map((t) => ({ value: String(t.id), title: `${t.name}${t.ended ? "" : " (running)"}` }))} onChange={pick} />
        <Button onClick={() => window.print()} sx={{ height: 38 }}>Print</Button>
      </Box>
      {verdict.error && <Problem error={verdict.error} />}
      {!verdict.data || !trial ? !verdict.error && <Waiting what="Asking the twin" /> : (
        <Box sx={{ opacity: verdict.isPlaceholderData ? 0.6 : 1 }}>
          <Typography variant="h1" component="h2" sx={{ mb: 0.5 }}>{capital(inUserUnits(verdict.data.headline, units))}</Typography>
          <Typography variant="body2" sx={(t) => ({ color: t.ink.soft })}>
            {trial.name}, {dateTimeWords(trial.started, site.time_zone)}, {inUserUnits(verdict.data.weather, units)}; build at revision {trial.build_revision}.
          </Typography>
          <Figures verdict={verdict.data} />
          <TrialChart trial={trial} verdict={verdict.data} zone={site.time_zone} height={270} />
          <Residuals verdict={verdict.data} />
          <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 3fr) minmax(0, 2fr)", gap: 3, mt: 1, "@media (max-width: 760px)": { gridTemplateColumns: "minmax(0, 1fr)" } }}>
            <Box>
              <Typography variant="h2">What was found</Typography>
              {verdict.data.sentences.map((s) => <Typography key={s} sx={{ mt: 0.5 }}>{capital(inUserUnits(s, units))}</Typography>)}
              {trial.remarks && <Typography sx={{ mt: 0.5, fontStyle: "italic" }}>Noted: {trial.remarks}</Typography>}
            </Box>
            <Box>
              <Typography variant="h2">How sure</Typography>
              <Typography sx={{ mt: 0.5 }}>{inUserUnits(verdict.data.how_sure, units)}</Typography>
              <ReadingTable verdict={verdict.data} />
            </Box>
          </Box>
        </Box>
      )}
    </Box>
  );
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

function Figures({ verdict }: { verdict: Verdict }) {
  const { units } = usePrefs();
  const number = (value: number | null | undefined, unit: string, name: string) =>
    value == null ? null : unit === "°C" ? withUnit(value, "temperature", units) : name === "f1" ? value.toFixed(3) : name === "f2" ? value.toFixed(2) : `${Math.round(value)} ${unit}`;
  const spread = (value: number, unit: string, name: string) => (unit === "°C" ? kelvins(value, units) : name === "f1" ? value.toFixed(3) : name === "f2" ? value.toFixed(2) : String(Math.max(1, Math.round(value))));
  return (
    <Box component="dl" sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fit, minmax(210px, 1fr))", gap: 1.5, my: 1.5 }}>
      {verdict.figures.map((f) => (
        <Box key={f.name} sx={(t) => ({ borderTop: `2px solid ${t.ink.ink}`, pt: 0.5 })}>
          <Typography component="dt" variant="h3">{inUserUnits(f.title, units)}</Typography>
          <Box component="dd" sx={{ m: 0 }}>
            <Box sx={{ fontSize: 22, fontWeight: 700 }}>
              {number(f.value, f.unit, f.name) ?? (f.name === "minutes-to-target" ? "not reached" : "not measured")}
              {f.value != null && f.doubt != null && <Box component="span" sx={{ fontSize: 15, fontWeight: 400 }}> ± {spread(f.doubt, f.unit, f.name)}</Box>}
              {f.unit === "m²K/W" && f.value != null && <Box component="span" sx={{ fontSize: 13, fontWeight: 400 }}> m²K/W</Box>}
            </Box>
            <Typography variant="body2">{[f.twin != null && `twin ${number(f.twin, f.unit, f.name)}`, f.grade && (f.name === "f1" ? `grade ${f.grade}` : f.grade)].filter(Boolean).join("; ")}</Typography>
          </Box>
        </Box>
      ))}
    </Box>
  );
}

/** Bars of several channels read at one time stand side by side. */
function rowAside(channels: number, index: number): number {
  return (index - (channels - 1) / 2) * 5;
}

/** Reading minus twin over the trial's time; bars are the doubt, the shaded middle is no difference. */
function Residuals({ verdict }: { verdict: Verdict }) {
  const [ref, width] = useWidth();
  const { ink } = useTheme();
  const { units } = usePrefs();
  const colours = useCurveColours();
  const rows = verdict.channels.flatMap((c, k) => c.residuals.map((r) => ({ ...r, node: c.node, at: Date.parse(r.time), aside: rowAside(verdict.channels.length, k) })));
  if (rows.length === 0) return null;
  const high = Math.max(5, ...rows.map((r) => Math.abs(r.residual_k)));
  const tall = 96;
  const x = timeScale(trialDomain(verdict), width || 800);
  const y = (k: number) => tall / 2 - (k / high) * (tall / 2 - 8);
  const doubt = verdict.channels[0]?.bias_doubt_k ?? 0;
  return (
    <Box ref={ref}>
      <svg width="100%" height={tall} role="img" aria-label="readings minus twin">
        <rect x={GUTTER.left} width={Math.max(0, (width || 800) - GUTTER.left - GUTTER.right)} y={y(doubt)} height={y(-doubt) - y(doubt)} fill={ink.twin} opacity={0.12} />
        <line x1={GUTTER.left} x2={(width || 800) - GUTTER.right} y1={y(0)} y2={y(0)} stroke={ink.ink} />
        {[high, -high].map((k) => <text key={k} x={GUTTER.left - 5} y={y(k) + 4} fontSize={11} textAnchor="end" fill={ink.soft}>{k > 0 ? "+" : "−"}{kelvins(Math.abs(k), units)}</text>)}
        {rows.map((r) => (
          <line key={`${r.node}${r.at}`} x1={x(r.at) + r.aside} x2={x(r.at) + r.aside} y1={y(0)} y2={y(r.residual_k)} stroke={(colours[r.node] ?? { colour: ink.soft }).colour} strokeWidth={rows.length > 60 ? 1 : 4} opacity={r.disturbed ? 0.35 : 1} />
        ))}
      </svg>
      <Legend lines={verdict.channels.map((c) => ({ key: c.node, title: `${c.title}, reading minus twin`, colour: (colours[c.node] ?? { colour: ink.soft }).colour }))} />
    </Box>
  );
}

function ReadingTable({ verdict }: { verdict: Verdict }) {
  const { site } = useDay();
  const { units } = usePrefs();
  return (
    <Box component="details" sx={{ mt: 1 }}>
      <summary>Readings beside the twin, as numbers</summary>
      <Box sx={{ maxHeight: 240, overflow: "auto" }} tabIndex={0} role="region" aria-label="readings beside the twin">
        <Box component="table" sx={(t) => ({ borderCollapse: "collapse", fontSize: 13, "& td, & th": { border: `1px solid ${t.ink.rule}`, px: 0.75, textAlign: "right" } })}>
          <thead><tr><th scope="col">time</th><th scope="col">what</th><th scope="col">reading</th><th scope="col">twin</th><th scope="col">doubt</th></tr></thead>
          <tbody>
            {verdict.channels.flatMap((c) => c.residuals.map((r) => (
              <tr key={`${c.channel}${r.time}`}>
                <td>{clockTime(r.time, site.time_zone)}</td><td>{c.title}</td>
                <td>{withUnit(r.reading_c, "temperature", units)}</td><td>{withUnit(r.twin_c, "temperature", units)}</td><td>± {kelvins(r.doubt_k, units)}</td>
              </tr>
            )))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}
