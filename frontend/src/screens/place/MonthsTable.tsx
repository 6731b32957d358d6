import { Box, Typography, useTheme } from "@mui/material";
import type { Site } from "../../api/client";
import { MONTHS } from "../../look/clock";
import { usePrefs } from "../../look/prefs";
import { defaultUnit, shown, type Quantity } from "../../look/units";
import { NumberField } from "../../parts/NumberField";

export type Climate = NonNullable<Site["climate"]>;
type Column = Exclude<keyof Climate[number], never>;

const COLUMNS: { field: Column; title: string; quantity: Quantity }[] = [
  { field: "tmin_c", title: "low", quantity: "temperature" },
  { field: "tmax_c", title: "high", quantity: "temperature" },
  { field: "rh", title: "damp", quantity: "share" },
  { field: "wind_m_s", title: "wind", quantity: "speed" },
  { field: "clearness", title: "clearness", quantity: "share" },
];

/** Usual weather by month: a table to type in, and the same as a picture. */
export function MonthsTable({ climate, about, onChange }: { climate: Climate; about: (field: string) => string | undefined; onChange: (climate: Climate) => void }) {
  const { units } = usePrefs();
  const set = (i: number, change: Partial<Climate[number]>) => onChange(climate.map((m, k) => (k === i ? { ...m, ...change } : m)));
  return (
    <Box className="months-and-chart">
      <Box component="table" className="months" aria-label="usual weather by month">
        <thead>
          <tr>
            <th scope="col"><span className="unseen">month</span></th>
            {COLUMNS.map((c) => <th scope="col" key={c.field}>{c.title}, {defaultUnit(c.quantity, units)}</th>)}
          </tr>
        </thead>
        <tbody>
          {climate.map((m, i) => (
            <tr key={i}>
              <th scope="row">{MONTHS[i]}</th>
              {COLUMNS.map((c) => (
                <td key={c.field}>
                  <NumberField
                    bare label={`${c.title} in ${MONTHS[i]}`} value={m[c.field] ?? null} quantity={c.quantity} problem={about(`climate.${i}.${c.field}`)}
                    onCommit={(value) => set(i, { [c.field]: value })} onEmpty={c.field === "clearness" ? () => set(i, { clearness: null }) : undefined}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Box>
      <ClimateChart climate={climate} />
    </Box>
  );
}

const WIDE = 330;
const TALL = 300;
const FOOT = 22;
const LEFT = 34;

/** Bars from each month's low to its high; below, a dot for the share of the sun that comes through. */
function ClimateChart({ climate }: { climate: Climate }) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const low = Math.floor((Math.min(...climate.map((m) => m.tmin_c)) - 2) / 5) * 5;
  const high = Math.ceil((Math.max(...climate.map((m) => m.tmax_c)) + 2) / 5) * 5;
  const air = TALL - FOOT - 70;
  const x = (i: number) => LEFT + ((i + 0.5) / 12) * (WIDE - LEFT - 4);
  const y = (c: number) => 8 + ((high - c) / (high - low)) * (air - 8);
  const sun = (k: number) => TALL - FOOT - k * 56;
  const marks = Array.from({ length: Math.floor((high - low) / 10) + 1 }, (_, k) => Math.ceil(low / 10) * 10 + 10 * k).filter((c) => c <= high);
  return (
    <Box>
      <svg viewBox={`0 0 ${WIDE} ${TALL}`} width="100%" style={{ maxWidth: WIDE * 1.4 }} role="img" aria-label="air from low to high and clearness, by month">
        {marks.map((c) => (
          <g key={c}>
            <line x1={LEFT} x2={WIDE} y1={y(c)} y2={y(c)} stroke={ink.rule} />
            <text x={LEFT - 4} y={y(c) + 4} fontSize={11} textAnchor="end" fill={ink.soft}>{shown(c, "temperature", units)}°</text>
          </g>
        ))}
        <text x={LEFT} y={sun(1) - 4} fontSize={11} fill={ink.soft}>sun that comes through</text>
        <line x1={LEFT} x2={WIDE} y1={sun(0)} y2={sun(0)} stroke={ink.rule} />
        {climate.map((m, i) => (
          <g key={i}>
            <rect x={x(i) - 6} width={12} y={y(m.tmax_c)} height={Math.max(y(m.tmin_c) - y(m.tmax_c), 1)} fill={ink.rust} />
            {m.clearness != null && <rect x={x(i) - 6} width={12} y={sun(m.clearness)} height={sun(0) - sun(m.clearness)} fill={ink.sun} />}
            <text x={x(i)} y={TALL - 6} fontSize={11} textAnchor="middle" fill={ink.ink}>{MONTHS[i]![0]}</text>
          </g>
        ))}
      </svg>
      <Typography variant="body2" className="ink-soft">Clearness is the share of the sun outside the air that reaches level ground over all days of the month; made-up years need it.</Typography>
    </Box>
  );
}
