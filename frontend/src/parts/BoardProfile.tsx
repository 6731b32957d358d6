import { Box, useTheme } from "@mui/material";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";

/** Moisture through a board, face to face: cells from the core outward are mirrored about the middle. */
interface Props {
  title: string;
  widths: number[];
  cells: number[];
  target: number;
  mean: number;
  most: number;
}

const WIDE = 210;
const HIGH = 150;
const LEFT = 34;
const FOOT = 20;

export function BoardProfile({ title, widths, cells, target, mean, most }: Props) {
  const { ink } = useTheme();
  const x = scaleLinear().domain([-1, 1]).range([LEFT, WIDE - 6]);
  const y = scaleLinear().domain([0, most]).range([HIGH - FOOT, 8]);
  const edges = widths.reduce<number[]>((at, w) => [...at, at.at(-1)! + w], [0]);
  const half = cells.map((mc, k) => [(edges[k]! + edges[k + 1]!) / 2, mc] as [number, number]);
  const points: [number, number][] = [...half.toReversed().map(([d, mc]) => [-d, mc] as [number, number]), ...half];
  const path = line<[number, number]>().x(([d]) => x(d)).y(([, mc]) => y(mc));
  const ticks = y.ticks(4);
  return (
    <Box component="figure" sx={{ m: 0, width: WIDE }}>
      <svg width={WIDE} height={HIGH} role="img" aria-label={`${title}: core ${Math.round(cells[0]! * 100)} %, shell ${Math.round(cells.at(-1)! * 100)} %, mean ${Math.round(mean * 100)} %`}>
        <rect x={x(-1)} y={8} width={x(1) - x(-1)} height={HIGH - FOOT - 8} fill={ink.wood} opacity={0.35} stroke={ink.ink} />
        {ticks.map((tick) => (
          <g key={tick}>
            <line x1={x(-1)} x2={x(1)} y1={y(tick)} y2={y(tick)} stroke={ink.rule} />
            <text x={LEFT - 5} y={y(tick) + 4} fontSize={11} textAnchor="end" fill={ink.soft}>{Math.round(tick * 100)} %</text>
          </g>
        ))}
        <line x1={x(-1)} x2={x(1)} y1={y(target)} y2={y(target)} stroke={ink.twin} strokeDasharray="6 3" />
        <path d={path(points) ?? ""} fill="none" stroke={ink.water} strokeWidth={2.4} />
        <text x={x(-1)} y={HIGH - 6} fontSize={11} fill={ink.soft}>face</text>
        <text x={x(0)} y={HIGH - 6} fontSize={11} textAnchor="middle" fill={ink.soft}>core</text>
        <text x={x(1)} y={HIGH - 6} fontSize={11} textAnchor="end" fill={ink.soft}>face</text>
      </svg>
      <figcaption className="size-12">{title}</figcaption>
    </Box>
  );
}
