import { Box, useTheme } from "@mui/material";
import type { TrialView, Verdict } from "../../../api/client";
import { clockTime } from "../../../look/clock";
import { useDay } from "../../../look/day";
import { usePrefs } from "../../../look/prefs";
import { withUnit } from "../../../look/units";
import { Legend } from "../../../parts/Curves";
import { GUTTER, timeScale } from "../../../parts/timeScale";
import { trialDomain, useTrialLooks } from "../../../parts/TrialChart";
import { useWidth } from "../../../parts/useWidth";

/** Bars of several channels read at one time stand side by side. */
function rowAside(channels: number, index: number): number {
  return (index - (channels - 1) / 2) * 5;
}

/** Reading minus twin over the trial's time; bars are the doubt, the shaded middle is no difference. */
export function Residuals({ verdict, trial }: { verdict: Verdict; trial: TrialView }) {
  const [ref, width] = useWidth();
  const { ink } = useTheme();
  const { units } = usePrefs();
  const drawnAs = useTrialLooks(trial);
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
        {[high, -high].map((k) => <text key={k} x={GUTTER.left - 5} y={y(k) + 4} fontSize={11} textAnchor="end" fill={ink.soft}>{withUnit(k, "difference", units, { signed: true })}</text>)}
        {rows.map((r) => (
          <line key={`${r.node}${r.at}`} x1={x(r.at) + r.aside} x2={x(r.at) + r.aside} y1={y(0)} y2={y(r.residual_k)} stroke={drawnAs(r.node).colour} strokeWidth={rows.length > 60 ? 1 : 4} opacity={r.disturbed ? 0.35 : 1} />
        ))}
      </svg>
      <Legend lines={verdict.channels.map((c) => ({ key: c.node, title: `${c.title}, reading minus twin`, colour: drawnAs(c.node).colour }))} />
    </Box>
  );
}

/** The same as numbers. */
export function ReadingTable({ verdict }: { verdict: Verdict }) {
  const { site } = useDay();
  const { units } = usePrefs();
  return (
    <Box component="details" className="mt-1">
      <summary>Readings beside the twin, as numbers</summary>
      <Box className="max-height-240 overflow-auto" tabIndex={0} role="region" aria-label="readings beside the twin">
        <Box component="table" sx={(t) => ({ borderCollapse: "collapse", fontSize: 13, "& td, & th": { border: `1px solid ${t.ink.rule}`, px: 0.75, textAlign: "end" } })}>
          <thead><tr><th scope="col">time</th><th scope="col">what</th><th scope="col">reading</th><th scope="col">twin</th><th scope="col">doubt</th></tr></thead>
          <tbody>
            {verdict.channels.flatMap((c) => c.residuals.map((r) => (
              <tr key={`${c.channel}${r.time}`}>
                <td>{clockTime(r.time, site.time_zone)}</td><td>{c.title}</td>
                <td>{withUnit(r.reading_c, "temperature", units)}</td><td>{withUnit(r.twin_c, "temperature", units)}</td><td>± {withUnit(r.doubt_k, "difference", units)}</td>
              </tr>
            )))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}
