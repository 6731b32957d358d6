import { Box, useTheme } from "@mui/material";
import type { Queue } from "../../api/client";
import { DAY_MS, dayStart as at, monthDayWords, MONTHS } from "../../look/clock";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { timeScale } from "../../parts/timeScale";
import { useWidth } from "../../parts/useWidth";

/** Each stack a lane over the months: outside as open sticks, in the kiln solid, when it may be dry, and when it is wanted. */
const LANE = 40;
/** So wide a month has to be for its name. */
const MONTH_PX = 62;
const TOP = 22;

export function QueueChart({ queue, today }: { queue: Queue; today: string }) {
  const [ref, width] = useWidth();
  const { ink } = useTheme();
  const { units } = usePrefs();
  const wide = width || 700;
  const ends = queue.lines.flatMap((l) => [l.late, l.dry_on, l.wanted_by, l.dry_outside]).filter((d): d is string => d !== null).map(at);
  const domain: [number, number] = [at(today) - 20 * DAY_MS, Math.max(...ends, at(today) + 300 * DAY_MS) + 25 * DAY_MS];
  const x = timeScale(domain, wide);
  const height = TOP + queue.lines.length * LANE + 20;
  const months = monthsOf(domain);
  const every = Math.max(Math.ceil((months.length * MONTH_PX) / wide), 1);
  return (
    <Box ref={ref} sx={{ width: "100%" }}>
      <svg width="100%" viewBox={`0 0 ${wide} ${height}`} height={height} role="img" aria-label="stacks over the months: outside, in the kiln, dry, wanted" style={{ display: "block" }}>
        {months.map((m, k) => (
          <g key={m.getTime()}>
            <line x1={x(m)} x2={x(m)} y1={TOP - 6} y2={height - 18} stroke={ink.rule} />
            {k % every === 0 && <text x={x(m) + 3} y={14} fontSize={11.5} fill={ink.soft}>{MONTHS[m.getUTCMonth()]}{m.getUTCMonth() === 0 ? ` ${m.getUTCFullYear()}` : ""}</text>}
          </g>
        ))}
        <line x1={x(new Date(at(today)))} x2={x(new Date(at(today)))} y1={TOP - 6} y2={height - 18} stroke={ink.sun} strokeWidth={2} />
        {queue.lines.map((l, k) => <Lane key={l.stack} line={l} y={TOP + k * LANE} x={(date) => x(new Date(date))} last={domain[1]} today={at(today)} title={say(l.title, units)} />)}
      </svg>
    </Box>
  );
}

/** First days of the months between two instants. */
function monthsOf([from, to]: [number, number]): Date[] {
  const first = new Date(from);
  const count = Math.ceil((to - from) / (28 * DAY_MS)) + 1;
  return Array.from({ length: count }, (_, k) => new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1 + k, 1))).filter((m) => m.getTime() < to);
}

interface LaneProps {
  line: Queue["lines"][number];
  y: number;
  x: (ms: number) => number;
  last: number;
  today: number;
  title: string;
}

function Lane({ line, y, x, last, today, title }: LaneProps) {
  const { ink } = useTheme();
  const goes = line.goes_in === null ? null : at(line.goes_in);
  const stays = goes ?? (line.dry_outside === null ? last : at(line.dry_outside));
  const dry = line.dry_on === null ? null : at(line.dry_on);
  const high = 15;
  const bar = y + 17;
  return (
    <g>
      <title>{title}</title>
      <text x={Math.max(x(today) + 4, 4)} y={y + 12} fontSize={12.5} fontWeight={700} fill={ink.ink} paintOrder="stroke" stroke={ink.paper} strokeWidth={4}>{line.place === null ? "" : `${line.place}  `}{line.stack}</text>
      <rect x={x(today)} width={Math.max(x(stays) - x(today), 1)} y={bar} height={high} fill="none" stroke={ink.water} strokeWidth={1.2} strokeDasharray="4 3" />
      {goes !== null && <rect x={x(goes)} width={Math.max((dry === null ? x(last) : x(dry)) - x(goes), 3)} y={bar} height={high} fill={ink.wood} stroke={ink.ink} strokeWidth={1} />}
      {line.early !== null && line.late !== null && <line x1={x(at(line.early))} x2={x(at(line.late))} y1={bar + high / 2} y2={bar + high / 2} stroke={ink.ink} strokeWidth={1.5} />}
      {line.early !== null && <line x1={x(at(line.early))} x2={x(at(line.early))} y1={bar + 2} y2={bar + high - 2} stroke={ink.ink} strokeWidth={1.5} />}
      {line.late !== null && <line x1={x(at(line.late))} x2={x(at(line.late))} y1={bar + 2} y2={bar + high - 2} stroke={ink.ink} strokeWidth={1.5} />}
      {line.wanted_by !== null && (
        <g>
          <path d={`M${x(at(line.wanted_by))} ${y + 4}v${LANE - 6}m-4 -${LANE - 6}h8l-4 6z`} stroke={ink.rust} fill={ink.rust} strokeWidth={1.5} />
          <text x={x(at(line.wanted_by)) + (x(at(line.wanted_by)) > 120 ? -7 : 7)} y={y + 12} textAnchor={x(at(line.wanted_by)) > 120 ? "end" : "start"} fontSize={11.5} fill={ink.rust} paintOrder="stroke" stroke={ink.paper} strokeWidth={4}>wanted {monthDayWords(line.wanted_by)}</text>
        </g>
      )}
    </g>
  );
}
