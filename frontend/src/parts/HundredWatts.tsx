import { Box, Typography } from "@mui/material";
import { useAccounts, useKind, useLoad } from "../kinds";
import type { Load, Outcome, Spec } from "../api/client";
import { useInks } from "../look/inks";
import { usePrefs } from "../look/prefs";
import { withUnit } from "../look/units";

/** Index of the outcome's sample nearest to an instant. */
export function sampleAt(outcome: Outcome, at: number): number {
  const first = Date.parse(outcome.times[0]!);
  return Math.min(Math.max(Math.round((at - first) / (outcome.step_s * 1000)), 0), outcome.times.length - 1);
}

/** The ledger as one bar of a hundred parts, from the sun at the opening to the use. */
export function HundredWatts({ outcome, spec, load, at }: { outcome: Outcome; spec: Spec; load: Load | null; at: number }) {
  const kind = useKind(spec);
  const accounts = useAccounts(spec, load);
  const also = useLoad(load)?.also_lit;
  const inkOf = useInks(kind.accent);
  const { units } = usePrefs();
  const i = sampleAt(outcome, at);
  const opening = outcome.opening_w[i] ?? 0;
  const parts = accounts.map((account) => ({ ...account, of: outcome.of_hundred[account.name]?.[i] ?? 0 }));
  const taken = parts.filter((p) => p.of >= 0.5);
  const given = parts.filter((p) => p.of <= -0.5);
  const total = taken.reduce((sum, p) => sum + p.of, 0) || 1;
  if (opening < 1) return <Typography variant="body2">No sun on it at this hour.</Typography>;
  return (
    <Box component="figure" className="m-0" aria-label="hundred-watt column">
      <Typography variant="body2" component="figcaption">
        {withUnit(opening, "power", units)} of sun {also ? "meet" : "meets"} the {kind.opening}{also && ` ${also}`}. Of each 100 parts:
        {given.length > 0 && ` (and ${given.map((p) => `${Math.round(-p.of)} comes back from ${p.back}`).join(", ")})`}
      </Typography>
      <Box className="flex height-26 border-1-ink mt-0_5">
        {taken.map((p) => (
          <Box key={p.name} title={p.title} sx={(t) => ({ width: `${(100 * p.of) / total}%`, background: inkOf(p.ink), borderRight: `1px solid ${t.ink.ink}`, "&:last-of-type": { borderRight: 0 } })} />
        ))}
      </Box>
      <Box component="ul" className="no-marks p-0 m-0 mt-0_5 flex wrap column-gap-2">
        {parts.filter((p) => Math.abs(p.of) >= 0.5).map((p) => (
          <Box component="li" key={p.name} className="flex gap-0_75 items-center size-13">
            <Box aria-hidden sx={(t) => ({ width: 12, height: 12, background: inkOf(p.ink), border: `1px solid ${t.ink.ink}` })} />
            <span><b>{Math.round(p.of)}</b> {p.short}</span>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
