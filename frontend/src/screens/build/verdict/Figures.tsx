import { Box, Typography } from "@mui/material";
import type { Verdict } from "../../../api/client";
import { usePrefs } from "../../../look/prefs";
import { say, withUnit, type Units } from "../../../look/units";

type Figure = Verdict["figures"][number];

/** Three to five figures with their doubt, the twin's own, and the grade; what was passed or missed says so in words. */
export function Figures({ figures }: { figures: Figure[] }) {
  const { units } = usePrefs();
  return (
    <Box component="dl" className="grid columns-repeat-auto-fit-minmax-200px-1fr gap-1_5 my-1_5">
      {figures.map((f) => (
        <Box key={f.name} sx={(t) => ({ borderTop: `2px solid ${f.passed === false ? t.ink.stop : t.ink.ink}`, pt: 0.5 })}>
          <Typography component="dt" variant="h3" className="capital">{say(f.title, units)}</Typography>
          <Box component="dd" className="m-0">
            <Box className="size-22 weight-700">
              {f.value === null ? (f.brief.length > 0 ? say(f.brief, units) : MISSING[f.name] ?? "not measured") : figureWords(f, f.value, f.doubt, units)}
            </Box>
            <Typography variant="body2">
              {[f.twin !== null && `twin ${figureWords(f, f.twin, null, units)}`, f.passed !== null && f.fault.length === 0 && (f.passed ? "passed" : "missed"), f.grade.length > 0 && say(f.grade, units)].filter(Boolean).join("; ")}
            </Typography>
            {f.needs_words && <Typography variant="body2">{say(f.words, units)}</Typography>}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

const MISSING: Record<string, string> = { "minutes-to-target": "not reached", goal: "missed" };

/** A figure with its doubt: in the user's unit, or as it was published. */
function figureWords(f: Figure, value: number, doubt: number | null, units: Units): string {
  if (f.quantity !== "plain") return withUnit(value, f.quantity, units, { doubt });
  const beside = doubt === null ? "" : ` ± ${Math.max(doubt, 10 ** -f.digits).toFixed(f.digits)}`;
  return `${value.toFixed(f.digits)}${beside} ${f.unit}`.trim();
}
