import { Box, Typography, useTheme } from "@mui/material";
import { useId } from "react";
import { useAccounts, useKind, useLoad } from "../kinds";
import type { Load, Outcome, Spec } from "../api/client";
import { accountFill, AccountPatterns } from "../look/hatches";
import { usePrefs } from "../look/prefs";
import { withUnit } from "../look/units";

/** Index of the outcome's sample nearest to an instant. */
export function sampleAt(outcome: Outcome, at: number): number {
  const first = Date.parse(outcome.times[0]!);
  return Math.min(Math.max(Math.round((at - first) / (outcome.step_s * 1000)), 0), outcome.times.length - 1);
}

const HIGH = 28;
const WIDE = 1000;

/** The ledger as one bar of a hundred parts, from the sun at the opening to the use. */
export function HundredWatts({ outcome, spec, load, at }: { outcome: Outcome; spec: Spec; load: Load | null; at: number }) {
  const kind = useKind(spec);
  const accounts = useAccounts(spec, load);
  const also = useLoad(load)?.also_lit;
  const { units } = usePrefs();
  const { ink } = useTheme();
  const mine = useId();
  const i = sampleAt(outcome, at);
  const opening = outcome.opening_w[i] ?? 0;
  const parts = accounts.map((account) => ({ ...account, of: outcome.of_hundred[account.name]?.[i] ?? 0 }));
  const taken = parts.filter((p) => p.of >= 0.5);
  const given = parts.filter((p) => p.of <= -0.5);
  const total = taken.reduce((sum, p) => sum + p.of, 0) || 1;
  if (opening < 1) return <Typography variant="body2">No sun on it at this hour.</Typography>;
  const ends = taken.map((_, k) => (WIDE * taken.slice(0, k + 1).reduce((sum, p) => sum + p.of, 0)) / total);
  return (
    <Box component="figure" className="m-0" aria-label="hundred-watt column">
      <Typography variant="body2" component="figcaption">
        {withUnit(opening, "power", units)} of sun {also ? "meet" : "meets"} the {kind.opening}{also && ` ${also}`}. Of each 100 parts:
        {given.length > 0 && ` (and ${given.map((p) => `${Math.round(-p.of)} comes back from ${p.back}`).join(", ")})`}
      </Typography>
      <svg width="100%" height={HIGH} aria-hidden="true" className="as-block mt-0_5">
        <AccountPatterns id={mine} accounts={accounts} accent={kind.accent} />
        {taken.map((p, k) => {
          const [from, to] = [k === 0 ? 0 : ends[k - 1]!, ends[k]!];
          return <rect key={p.name} x={`${from / 10}%`} width={`${(to - from) / 10}%`} y={0} height={HIGH} fill={accountFill(mine, p.name)} stroke={ink.ink} strokeWidth={1.5}><title>{p.title}</title></rect>;
        })}
      </svg>
      <Box component="ul" className="no-marks p-0 m-0 mt-0_5 flex wrap column-gap-2">
        {parts.filter((p) => Math.abs(p.of) >= 0.5).map((p) => (
          <Box component="li" key={p.name} className="flex gap-0_75 items-center size-13">
            <svg width={14} height={14} aria-hidden="true"><rect x={0.5} y={0.5} width={13} height={13} fill={accountFill(mine, p.name)} stroke={ink.ink} /></svg>
            <span><b>{Math.round(p.of)}</b> {p.short}</span>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
