import { Box, useTheme } from "@mui/material";
import { scaleLinear, scaleLog } from "d3-scale";
import { line } from "d3-shape";
import type { FlowCurve } from "../api/client";
import { usePrefs } from "../look/prefs";
import { shown, unitOf, withUnit } from "../look/units";
import { useWidth } from "./useWidth";

/** Outlet temperature and heat against flow, the flow of today marked. */
const HEIGHT = 210;
const EDGE = { left: 44, right: 52, top: 12, bottom: 34 };

export function FlowChart({ curve, label }: { curve: FlowCurve; label: string }) {
  const [ref, measured] = useWidth();
  const { ink } = useTheme();
  const { units } = usePrefs();
  const width = measured || 600;
  const { points, now } = curve;
  const flows = points.map((p) => p.l_min);
  const x = scaleLog().domain([flows[0]!, flows.at(-1)!]).range([EDGE.left, width - EDGE.right]);
  const all = now ? [...points, now] : points;
  const warm = scaleLinear().domain([0, Math.max(...all.map((p) => p.out_c)) * 1.1]).range([HEIGHT - EDGE.bottom, EDGE.top]);
  const heat = scaleLinear().domain([0, Math.max(1, ...all.map((p) => p.gain_w)) * 1.1]).range([HEIGHT - EDGE.bottom, EDGE.top]);
  const drawn = (y: (p: FlowCurve["points"][number]) => number) => line<FlowCurve["points"][number]>().x((p) => x(p.l_min)).y(y)(points) ?? "";
  return (
    <Box ref={ref} className="width-100pc">
      <svg width="100%" height={HEIGHT} role="img" aria-label={label}>
        {warm.ticks(4).map((tick) => (
          <g key={tick}>
            <line x1={EDGE.left} x2={width - EDGE.right} y1={warm(tick)} y2={warm(tick)} stroke={ink.rule} />
            <text x={EDGE.left - 6} y={warm(tick) + 4} fontSize={11.5} textAnchor="end" fill={ink.stop}>{shown(tick, "temperature", units)}°</text>
          </g>
        ))}
        {heat.ticks(4).map((tick) => <text key={tick} x={width - EDGE.right + 6} y={heat(tick) + 4} fontSize={11.5} fill={ink.ink}>{withUnit(tick, "power", units)}</text>)}
        {flows.filter((_, k) => k % 2 === 1).map((flow) => <text key={flow} x={x(flow)} y={HEIGHT - 16} fontSize={11.5} textAnchor="middle" fill={ink.soft}>{shown(flow, "flow", units)}</text>)}
        <text x={(EDGE.left + width - EDGE.right) / 2} y={HEIGHT - 2} fontSize={11.5} textAnchor="middle" fill={ink.soft}>{unitOf("flow", units).symbol}</text>
        <path d={drawn((p) => warm(p.out_c))} fill="none" stroke={ink.stop} strokeWidth={2.5} strokeDasharray="7 3" />
        <path d={drawn((p) => heat(p.gain_w))} fill="none" stroke={ink.ink} strokeWidth={3} />
        {now && (
          <g>
            <line x1={x(now.l_min)} x2={x(now.l_min)} y1={EDGE.top} y2={HEIGHT - EDGE.bottom} stroke={ink.soft} strokeDasharray="2 4" />
            <circle cx={x(now.l_min)} cy={heat(now.gain_w)} r={5.5} fill={ink.sun} stroke={ink.ink} strokeWidth={1.5} />
            <circle cx={x(now.l_min)} cy={warm(now.out_c)} r={5.5} fill={ink.paper} stroke={ink.stop} strokeWidth={2} />
          </g>
        )}
      </svg>
      <p className="size-12">Whole line: heat carried off. Dashes: how warm it comes out.{now && " Marks: as it runs now."}</p>
    </Box>
  );
}
