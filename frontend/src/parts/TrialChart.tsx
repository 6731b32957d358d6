import { useTheme } from "@mui/material";
import type { TrialView, Verdict } from "../api/client";
import { usePrefs } from "../look/prefs";
import { withUnit } from "../look/units";
import { useCurveColours } from "../screens/build/ForecastStage";
import { Curves, Legend } from "./Curves";

/** Readings as dots with their doubt, the control hollow, the twin a line in its band, events as flags, sun at the foot. */
export function trialDomain(verdict: Verdict): [number, number] {
  return [Date.parse(verdict.times[0]!), Date.parse(verdict.times.at(-1)!)];
}

export function TrialChart({ trial, verdict, zone, height }: { trial: TrialView; verdict: Verdict; zone: string; height: number }) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const colours = useCurveColours();
  const times = verdict.times.map((t) => Date.parse(t));
  const nodes = trial.channels.map((c) => c.node);
  const colour = (node: string) => (colours[node] ?? { colour: ink.soft }).colour;
  const lines = verdict.curves.filter((c) => nodes.includes(c.node)).map((c) => ({
    key: c.node, title: `${c.title}, twin`, colour: colour(c.node), width: 1.8,
    points: c.temperature_c.map((value, i) => ({ at: times[i]!, value: value ?? null })),
    band: c.low_c.map((low, i) => ({ at: times[i]!, low: low ?? null, high: c.high_c[i] ?? null })),
  }));
  const disturbed = new Set(verdict.channels.flatMap((c) => c.residuals.filter((r) => r.disturbed).map((r) => `${c.channel}${Date.parse(r.time)}`)));
  const dots = trial.readings.filter((r) => r.flag_code === "").map((r) => {
    const channel = trial.channels.find((c) => c.name === r.channel);
    const at = Date.parse(r.time);
    return {
      at, value: r.value_c, doubt: channel?.doubt_k ?? 1, colour: colour(channel?.node ?? ""), hollow: channel?.is_control ?? false,
      faint: disturbed.has(`${r.channel}${at}`), title: `${channel?.title ?? r.channel} ${withUnit(r.value_c, "temperature", units)}`,
    };
  });
  return (
    <>
      <Curves
        label="readings beside the twin" domain={trialDomain(verdict)} zone={zone} lines={lines} dots={dots} height={height}
        flags={trial.events.map((e) => ({ at: Date.parse(e.time), text: e.kind }))}
        sun={verdict.level_sun_w_m2.map((value, i) => ({ at: times[i]!, value }))}
      />
      <Legend
        lines={[...lines, ...trial.channels.filter((c) => c.is_control).map((c) => ({ key: c.name, title: `${c.title}, control`, colour: colour(c.node), hollow: true }))]}
      />
    </>
  );
}
