import { Box, Typography } from "@mui/material";
import type { Verdict } from "../../../api/client";
import { usePrefs } from "../../../look/prefs";
import { say, withUnit, type Units } from "../../../look/units";

type Figure = Verdict["figures"][number];

/** Three to five figures with their doubt, the twin's own, and the grade; what was passed or missed says so in words. */
export function Figures({ figures }: { figures: Figure[] }) {
  const { units } = usePrefs();
  return (
    <Box component="dl" sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fit, minmax(200px, 1fr))", gap: 1.5, my: 1.5 }}>
      {figures.map((f) => (
        <Box key={f.name} sx={(t) => ({ borderTop: `2px solid ${f.passed === false ? t.ink.stop : t.ink.ink}`, pt: 0.5 })}>
          <Typography component="dt" variant="h3">{say(f.title, units)}</Typography>
          <Box component="dd" sx={{ m: 0 }}>
            <Box sx={{ fontSize: 22, fontWeight: 700 }}>
              {f.value == null ? MISSING[f.name] ?? "not measured" : valueOf(f, f.value, units)}
              {f.value != null && f.doubt != null && <Box component="span" sx={{ fontSize: 15, fontWeight: 400 }}> ± {doubtOf(f, units)}</Box>}
              {f.value != null && AFTER.includes(f.unit) && <Box component="span" sx={{ fontSize: 13, fontWeight: 400 }}> {f.unit}</Box>}
            </Box>
            <Typography variant="body2">
              {[f.twin != null && `twin ${valueOf(f, f.twin, units)}`, f.passed != null && (f.passed ? "passed" : "missed"), f.grade && say(f.grade, units)].filter(Boolean).join("; ")}
            </Typography>
            {SAID.includes(f.name) && <Typography variant="body2">{say(f.words, units)}</Typography>}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

const MISSING: Record<string, string> = { "minutes-to-target": "not reached", goal: "missed" };
/** Figures whose number alone says too little. */
const SAID = ["portion-states"];
const AFTER = ["m²K/W", "kWh/m²"];

function valueOf(f: Figure, value: number, units: Units): string {
  if (f.unit === "°C") return withUnit(value, "temperature", units);
  const shown = (units.temperature === "F" && f.unit === "K" ? value * 1.8 : value).toFixed(f.digits ?? 0);
  return AFTER.includes(f.unit) || f.unit === "" ? shown : `${shown} ${f.unit === "K" && units.temperature === "F" ? "°F" : f.unit}`;
}

function doubtOf(f: Figure, units: Units): string {
  if (f.unit === "°C") return withUnit(f.doubt!, "difference", units);
  const doubt = units.temperature === "F" && f.unit === "K" ? f.doubt! * 1.8 : f.doubt!;
  const digits = f.digits ?? 0;
  return Math.max(doubt, 10 ** -digits).toFixed(digits);
}
