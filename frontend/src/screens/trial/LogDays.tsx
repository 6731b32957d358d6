import { Box, Typography, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { LogDays as Log, TrialView } from "../../api/client";
import { logDaysQuery } from "../../api/queries";
import { DAY_MS, dayStart as at, monthDayWords } from "../../look/clock";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { timeScale } from "../../parts/timeScale";
import { useWidth } from "../../parts/useWidth";

/** A log of weeks by its days: from the lowest to the highest reading of each, hatched where there was none. */
const FEWEST_DAYS = 3;

export function LogDays({ trial }: { trial: TrialView }) {
  const { units } = usePrefs();
  const [picked, setPicked] = useState<string | null>(null);
  const { data } = useQuery(logDaysQuery(trial.id, trial.mark));
  const long = data?.channels.filter((c) => c.days.length >= FEWEST_DAYS) ?? [];
  const channel = long.find((c) => c.channel === picked) ?? long[0];
  if (!data || !channel) return null;
  return (
    <Box component="section" aria-label="day by day" className="mt-2">
      <Box className="flex wrap gap-1 items-center">
        <Typography variant="h2">Day by day</Typography>
        {long.length > 1 && <Box className="width-230"><Choice label="What was read" value={channel.channel} options={long.map((c) => ({ value: c.channel, title: c.title }))} onChange={setPicked} /></Box>}
      </Box>
      <Bars channel={channel} gaps={data.gaps.filter((g) => g.channel === channel.channel)} />
      {data.words.map((words, k) => <Typography key={k} className="mt-0_5">{say(words, units)}</Typography>)}
    </Box>
  );
}

const HEIGHT = 130;
const FOOT = 18;

function Bars({ channel, gaps }: { channel: Log["channels"][number]; gaps: Log["gaps"] }) {
  const [ref, width] = useWidth();
  const { ink } = useTheme();
  const { units } = usePrefs();
  const wide = width || 600;
  const { days } = channel;
  const ends = days.flatMap((d) => (channel.counts_hours ? [0, d.mean] : [d.low, d.high]));
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const domain: [number, number] = [at(days[0]!.day), at(days.at(-1)!.day) + DAY_MS];
  const x = timeScale(domain, wide);
  const y = (value: number) => 12 + (1 - (value - low) / Math.max(high - low, 1e-9)) * (HEIGHT - FOOT - 22);
  const bar = Math.max(Math.min(x(new Date(domain[0] + DAY_MS)) - x(new Date(domain[0])) - 2, 14), 1.5);
  const said = (value: number) => withUnit(value, channel.quantity, units);
  const every = Math.max(Math.ceil(days.length / Math.max(Math.floor(wide / 95), 1)), 1);
  return (
    <Box ref={ref} sx={{ width: "100%" }}>
      <svg width="100%" viewBox={`0 0 ${wide} ${HEIGHT}`} height={HEIGHT} role="img" aria-label={`${channel.title} by the day, ${said(low)} to ${said(high)}`} style={{ display: "block" }}>
        <defs><pattern id="gap" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><line x1="0" y1="0" x2="0" y2="6" stroke={ink.soft} strokeWidth="1" /></pattern></defs>
        {gaps.map((g) => <rect key={g.start} x={x(new Date(g.start))} width={Math.max(x(new Date(g.end)) - x(new Date(g.start)), 2)} y={8} height={HEIGHT - FOOT - 10} fill="url(#gap)"><title>{`no reading for ${withUnit(g.hours, "hours", units)}`}</title></rect>)}
        {days.map((d, k) => {
          const [from, to] = channel.counts_hours ? [0, d.mean] : [d.low, d.high];
          const left = x(new Date(at(d.day) + DAY_MS / 2)) - bar / 2;
          return (
            <g key={d.day}>
              <rect x={left} width={bar} y={y(to)} height={Math.max(y(from) - y(to), 2)} fill={ink.sun} stroke={ink.ink} strokeWidth={0.6}>
                <title>{`${monthDayWords(d.day)}: ${channel.counts_hours ? said(d.mean) : `${said(d.low)} to ${said(d.high)}`}, ${d.readings} readings`}</title>
              </rect>
              {k % every === 0 && <text x={left} y={HEIGHT - 4} fontSize={11.5} fill={ink.soft}>{monthDayWords(d.day)}</text>}
            </g>
          );
        })}
        {[low, high].map((value) => <text key={value} x={2} y={Math.max(y(value) + 4, 10)} fontSize={11.5} fill={ink.ink} paintOrder="stroke" stroke={ink.paper} strokeWidth={4}>{said(value)}</text>)}
      </svg>
    </Box>
  );
}
