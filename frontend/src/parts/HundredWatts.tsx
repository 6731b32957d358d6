import { Box, Typography, useTheme } from "@mui/material";
import type { Outcome } from "../api/client";

/** The ledger as one bar of a hundred parts, from the sun at the opening to the use. */
const SHORT: Record<string, string> = {
  mirrored: "thrown back", cover: "cover", walls: "walls", leak: "leak", vent: "vent", steam: "steam", box: "stored in box", food: "into food",
  air: "wind", sky: "shone back", samples: "stored in samples",
};
/** The same accounts by other words where there is a board instead of a box. */
const ON_A_BOARD: Record<string, string> = { walls: "board's back", box: "stored in board" };

const BACK: Record<string, string> = { box: "the warm box", food: "the pot", samples: "the warm samples" };

/** Index of the outcome's sample nearest to an instant. */
export function sampleAt(outcome: Outcome, at: number): number {
  const first = Date.parse(outcome.times[0]!);
  return Math.min(Math.max(Math.round((at - first) / (outcome.step_s * 1000)), 0), outcome.times.length - 1);
}

export function HundredWatts({ outcome, at }: { outcome: Outcome; at: number }) {
  const { ink } = useTheme();
  const i = sampleAt(outcome, at);
  const opening = outcome.opening_w[i] ?? 0;
  const board = outcome.useful_account === "samples";
  const parts = Object.entries(outcome.account_titles).map(([name, title]) => ({ name, of: outcome.of_hundred[name]?.[i] ?? 0, title }));
  const fills: Record<string, string> = {
    mirrored: ink.sky, cover: ink.glass, walls: ink.wood, leak: ink.water, vent: ink.soft, steam: ink.rule, box: ink.foam, food: ink.oven, wax: ink.melter, air: ink.water, sky: ink.soft, samples: ink.samples,
  };
  const taken = parts.filter((p) => p.of > 0.4);
  const given = parts.filter((p) => p.of < -0.4);
  const total = taken.reduce((sum, p) => sum + p.of, 0) || 1;
  if (opening < 1) return <Typography variant="body2">No sun on it at this hour.</Typography>;
  return (
    <Box component="figure" sx={{ m: 0 }} aria-label="hundred-watt column">
      <Typography variant="body2" component="figcaption">
        {Math.round(opening)} W of sun meets the {board ? "board" : "opening"}. Of each 100 W:
        {given.length > 0 && ` (and ${given.map((p) => `${Math.round(-p.of)} comes back from ${BACK[p.name] ?? "what is warm"}`).join(", ")})`}
      </Typography>
      <Box sx={(t) => ({ display: "flex", height: 26, border: `1px solid ${t.ink.ink}`, mt: 0.5 })}>
        {taken.map((p) => (
          <Box key={p.name} title={p.title} sx={(t) => ({ width: `${(100 * p.of) / total}%`, background: fills[p.name], borderRight: `1px solid ${t.ink.ink}`, "&:last-of-type": { borderRight: 0 } })} />
        ))}
      </Box>
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0, mt: 0.5, display: "flex", flexWrap: "wrap", columnGap: 2 }}>
        {parts.filter((p) => Math.abs(p.of) > 0.4).map((p) => (
          <Box component="li" key={p.name} sx={{ display: "flex", gap: 0.75, alignItems: "center", fontSize: 13 }}>
            <Box aria-hidden sx={(t) => ({ width: 12, height: 12, background: fills[p.name], border: `1px solid ${t.ink.ink}` })} />
            <span><b>{Math.round(p.of)}</b> {(board && ON_A_BOARD[p.name]) || (SHORT[p.name] ?? p.title)}</span>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
