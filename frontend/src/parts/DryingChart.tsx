import { Box, useTheme } from "@mui/material";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { GUTTER, hourTicks, tickWords, timeScale } from "./timeScale";
import { useWidth } from "./useWidth";

/** Water left in each tray over some days, and where each is done. */
interface Tray {
  title: string;
  water_wb: (number | null)[];
  done: number | null;
}

const HEIGHT = 220;
const FOOT = 22;
const DASHES = ["", "7 3", "2 3", "9 3 2 3"];

export function DryingChart({ label, times, trays, zone }: { label: string; times: number[]; trays: Tray[]; zone: string }) {
  const [ref, width] = useWidth();
  const { ink } = useTheme();
  const wide = width || 700;
  const domain: [number, number] = [times[0]!, times.at(-1)!];
  const x = timeScale(domain, wide);
  const bottom = HEIGHT - FOOT;
  const y = scaleLinear().domain([0, 100]).range([bottom, 8]);
  const inks = [ink.rust, ink.water, ink.sun, ink.plum, ink.ink, ink.twin];
  const path = line<number | null>().defined((v) => v !== null).x((_, i) => x(times[i]!)).y((v) => y(100 * v!));
  const drawn = trays.map((tray, k) => ({ ...tray, colour: inks[k % inks.length]!, dash: DASHES[Math.floor(k / inks.length) % DASHES.length]! }));
  return (
    <Box ref={ref} sx={{ width: "100%" }}>
      <svg width="100%" height={HEIGHT} role="img" aria-label={label} style={{ display: "block" }}>
        {[0, 20, 40, 60, 80].map((tick) => (
          <g key={tick}>
            <line x1={GUTTER.left} x2={wide - GUTTER.right} y1={y(tick)} y2={y(tick)} stroke={ink.rule} />
            <text x={GUTTER.left - 6} y={y(tick) + 4} fontSize={11.5} textAnchor="end" fill={ink.soft}>{tick} %</text>
          </g>
        ))}
        {hourTicks(domain, wide, zone).map((at) => (
          <g key={at}>
            <line x1={x(at)} x2={x(at)} y1={8} y2={bottom} stroke={ink.rule} strokeDasharray="1 5" />
            <text x={x(at)} y={HEIGHT - 6} fontSize={11.5} textAnchor="middle" fill={ink.soft}>{tickWords(at, domain, zone)}</text>
          </g>
        ))}
        {drawn.map((tray) => (
          <g key={tray.title}>
            <path d={path(tray.water_wb) ?? ""} fill="none" stroke={tray.colour} strokeWidth={2} strokeDasharray={tray.dash} />
            {tray.done !== null && <path d={`M${x(tray.done)} ${bottom}v-14m-4 5l4 -5l4 5`} fill="none" stroke={tray.colour} strokeWidth={1.6}><title>{tray.title} dry</title></path>}
          </g>
        ))}
      </svg>
      <Box component="ul" className="no-marks flex wrap gap-1_5 pl-0 mt-0_5">
        {drawn.map((tray) => (
          <Box component="li" key={tray.title} className="flex gap-0_5 items-center">
            <svg width={26} height={8} aria-hidden="true"><line x1={0} x2={26} y1={4} y2={4} stroke={tray.colour} strokeWidth={2.4} strokeDasharray={tray.dash} /></svg>{tray.title}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
