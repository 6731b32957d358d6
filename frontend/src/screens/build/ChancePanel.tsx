import { Box, Typography, useTheme } from "@mui/material";
import type { Chance } from "../../api/client";
import { useHeavy } from "../../api/heavy";
import { chanceQuery } from "../../api/queries";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Progress } from "../../parts/Progress";
import { Words } from "./Words";
import type { BuildState } from "./useBuild";

/** Thirty made-up years, one after the other in the background. */
export function ChancePanel({ state }: { state: BuildState }) {
  return <Asked title="By chance, over thirty years" door="Make up thirty years"><Years state={state} /></Asked>;
}

function Years({ state }: { state: BuildState }) {
  const request = state.request!;
  const asked = useHeavy(chanceQuery(request));
  const found = asked.data;
  return (
    <Box>
      <Progress answer={asked} what="Years so far" />
      {found && <><Words said={found.words} /><Dots found={found} /></>}
    </Box>
  );
}

const HEIGHT = 74;
const WIDE = 560;

/** A dot for each year along what it came to; those that were never done stand at the end. */
function Dots({ found }: { found: Chance }) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const known = found.members.filter((m): m is number => m !== null);
  if (known.length === 0) return <Typography>In none of them so far.</Typography>;
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const wide = Math.max(high - low, 1e-6);
  const x = (value: number) => 30 + ((value - low) / wide) * (WIDE - 130);
  const stacks = new Map<number, number>();
  const up = (at: number) => {
    const slot = Math.round(at / 9);
    const count = stacks.get(slot) ?? 0;
    stacks.set(slot, count + 1);
    return HEIGHT - 26 - count * 8;
  };
  const said = (value: number) => withUnit(found.quantity === "count" ? Math.round(value) : value, found.quantity, units);
  return (
    <svg viewBox={`0 0 ${WIDE} ${HEIGHT}`} width="100%" style={{ maxWidth: WIDE }} role="img" aria-label={`each year's ${say(found.counts, units)}`}>
      <line x1={20} x2={WIDE - 20} y1={HEIGHT - 20} y2={HEIGHT - 20} stroke={ink.rule} />
      {found.low !== null && found.high !== null && <rect x={x(found.low)} width={Math.max(x(found.high) - x(found.low), 1)} y={HEIGHT - 22} height={4} fill={ink.sun} />}
      {found.members.map((member, k) => {
        const at = member === null ? WIDE - 50 : x(member);
        return <circle key={k} cx={at} cy={up(at)} r={3.2} fill={member === null ? "none" : ink.ink} stroke={ink.ink} />;
      })}
      {[low, found.likely ?? high, high].map((value, k) => <text key={k} x={x(value)} y={HEIGHT - 6} textAnchor="middle" fontSize={12} fill={ink.ink}>{k === 1 || wide > 0 ? said(value) : ""}</text>)}
      {found.members.includes(null) && <text x={WIDE - 50} y={HEIGHT - 6} textAnchor="middle" fontSize={12} fill={ink.ink}>not by then</text>}
    </svg>
  );
}
