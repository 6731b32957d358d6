import { Box, Button, Typography, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Aimed, TurningCurve, TwinRequest } from "../../api/client";
import { useHeavy } from "../../api/heavy";
import { aimedQuery, flapYearQuery, turningQuery } from "../../api/queries";
import { named } from "../../look/names";
import { clockTime, minutesWords, MONTHS } from "../../look/clock";
import { useDay, useLamp } from "../../look/day";
import { LAMP_RESTS_MS, useSettled } from "../../look/useSettled";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Problem, Waiting } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { setAt } from "../../parts/setAt";
import type { BuildState } from "./useBuild";

/** Pointing it without looking at the sun: indicator, level, pointer, the flap's angle, and what turning is worth. */
export function Pointing({ state }: { state: BuildState }) {
  const { site } = useDay();
  const { lamp } = useLamp();
  const { units } = usePrefs();
  const request = state.request!;
  const at = new Date(useSettled(Math.round(lamp / 600_000) * 600_000, LAMP_RESTS_MS)).toISOString();
  const aimed = useQuery(aimedQuery(request, at));
  const turning = useHeavy(turningQuery(request));
  const put = (path: string, angle: number) => state.save((draft) => ({ spec: setAt(draft.spec, path, angle) }), `mirror angle ${withUnit(angle, "angle", units)}`);
  return (
    <Box className="two-columns p-0 mt-3">
      <Box component="section" aria-label="pointing">
        <Typography variant="h2">{aimed.data && !aimed.data.pointing.is_up ? `No sun to point at, at ${clockTime(lamp, site.time_zone)}` : `Point it at ${clockTime(lamp, site.time_zone)} without looking at the sun`}</Typography>
        {aimed.error && <Problem error={aimed.error} />}
        {aimed.data ? (
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, mt: 1, opacity: aimed.isPlaceholderData ? 0.6 : 1 }}>
            <Indicator aimed={aimed.data} />
            <Box component="ul" aria-live="polite" sx={{ m: 0, paddingInlineStart: 2.25, flex: "1 1 240px", minWidth: 0, "& li": { mb: 0.5 } }}>
              {aimed.data.pointing.words.map((words, k) => <li key={k}>{say(words, units)}</li>)}
            </Box>
          </Box>
        ) : <Waiting what="Casting shadows" />}
        {aimed.data?.pointing.is_up && Math.abs(aimed.data.pointing.turn_deg) >= 3 && (
          <Button variant="contained" className="mt-1" onClick={() => state.save((draft) => ({ spec: { ...draft.spec, facing_deg: Math.round(aimed.data.pointing.sun_azimuth_deg) } }), "turned to the sun")}>Turn it to the sun</Button>
        )}
        {aimed.data?.flap && (
          <Box className="mt-2">
            <Typography variant="h2">The mirror’s angle</Typography>
            <Typography>{say(aimed.data.flap.words, units)}</Typography>
            <FlapCurve flap={aimed.data.flap} />
            <Box className="flex gap-1 wrap">
              <Button onClick={() => put(aimed.data.flap!.path, aimed.data.flap!.best_now_deg)}>Set {withUnit(aimed.data.flap.best_now_deg, "angle", units)} for now</Button>
              <Button onClick={() => put(aimed.data.flap!.path, aimed.data.flap!.best_meal_deg)}>Set {withUnit(aimed.data.flap.best_meal_deg, "angle", units)} for {aimed.data.flap.wanted_for}</Button>
            </Box>
            <FlapByMonth request={request} onPut={put} />
          </Box>
        )}
      </Box>
      <Box component="section" aria-label="turning">
        <Typography variant="h2">What turning is worth</Typography>
        <Progress answer={turning} what="Turning it through the day" />
        {turning.data && <Turning curve={turning.data} stale={turning.isPlaceholderData} />}
      </Box>
    </Box>
  );
}

/** The pin on the opening, seen square on, and its shadow. */
function Indicator({ aimed }: { aimed: Aimed }) {
  const { ink } = useTheme();
  const { pin_shadow_m: pin, pin_toward: toward } = aimed.pointing;
  const reach = pin === null ? 0 : Math.min(pin / 0.1, 1.2) * 34;
  const [dx, dy] = { left: [-1, 0], right: [1, 0], up: [0, -1], down: [0, 1], "": [0, 0] }[toward] as [number, number];
  return (
    <svg viewBox="0 0 100 100" width={110} height={110} role="img" aria-label={toward ? `indicator: shadow falls ${named(toward)}` : "indicator: no shadow"} style={{ flex: "none" }}>
      <rect x={6} y={6} width={88} height={88} fill={ink.raised} stroke={ink.ink} />
      {[12, 24, 36].map((r) => <circle key={r} cx={50} cy={50} r={r} fill="none" stroke={ink.rule} />)}
      {pin !== null && toward && <line x1={50} y1={50} x2={50 + dx * reach} y2={50 + dy * reach} stroke={ink.soft} strokeWidth={5} strokeLinecap="round" />}
      <circle cx={50} cy={50} r={4} fill={ink.sun} stroke={ink.ink} />
    </svg>
  );
}

function FlapCurve({ flap }: { flap: NonNullable<Aimed["flap"]> }) {
  const { ink } = useTheme();
  const [first, last] = [flap.angles_deg[0]!, flap.angles_deg.at(-1)!];
  const x = (a: number) => 30 + ((a - first) / (last - first)) * 260;
  const path = (values: number[]) => values.map((v, i) => `${i ? "L" : "M"}${x(flap.angles_deg[i]!).toFixed(1)} ${(80 - 66 * v).toFixed(1)}`).join("");
  return (
    <>
    <Typography variant="body2" className="ink-soft">Light on the load: amber now, dashed {flap.wanted_for}</Typography>
    <svg viewBox="0 14 320 90" width={320} height={90} role="img" aria-label={`light by the mirror's angle, most at ${flap.best_now_deg} degrees`}>
      <line x1={30} x2={290} y1={80} y2={80} stroke={ink.ink} />
      <path d={path(flap.now)} fill="none" stroke={ink.sun} strokeWidth={2.5} />
      <path d={path(flap.meal)} fill="none" stroke={ink.ink} strokeWidth={1.5} strokeDasharray="5 3" />
      {flap.angles_deg.filter((a) => a % 20 === 0).map((a) => <text key={a} x={x(a)} y={95} fontSize={12} textAnchor="middle" fill={ink.soft}>{a < 0 ? `−${-a}` : a}°</text>)}
    </svg>
    </>
  );
}

/** Asked for by a button: the best angle of every month, and what one for the whole year loses. */
function FlapByMonth({ request, onPut }: { request: TwinRequest; onPut: (path: string, angle: number) => void }) {
  const [open, setOpen] = useState(false);
  const { units } = usePrefs();
  const year = useHeavy(flapYearQuery(request), open);
  if (!open) return <Button className="mt-1" onClick={() => setOpen(true)}>Month by month</Button>;
  if (!year.data) return <Progress answer={year} what="Setting it through the year" />;
  const { months, path, fixed_deg: fixed, words } = year.data;
  const cell = (share: number) => `${Math.round(share * 100)} %`;
  return (
    <Box component="section" aria-label="its angle by the month" sx={{ mt: 1, opacity: year.isPlaceholderData ? 0.6 : 1 }}>
      <Typography>{say(words, units)}</Typography>
      <Button className="my-0_5" onClick={() => onPut(path, fixed)}>Set {withUnit(fixed, "angle", units)} for the year</Button>
      <Box component="table" sx={(t) => ({ borderCollapse: "collapse", "& td, & th": { borderBottom: `1px solid ${t.ink.rule}`, px: 1, py: 0.25, textAlign: "end" } })}>
        <thead><tr><th scope="col">month</th><th scope="col">best</th><th scope="col">light as it stands</th><th scope="col">at {withUnit(fixed, "angle", units)}</th><th scope="col">without</th><th scope="col"><span className="position-absolute width-1px height-1px overflow-hidden clip-path-inset-50pc">set</span></th></tr></thead>
        <tbody>
          {months.map((m) => (
            <tr key={m.month}>
              <th scope="row">{MONTHS[m.month - 1]}</th>
              <td>{withUnit(m.best_deg, "angle", units)}</td>
              <td>{cell(m.now_share)}</td>
              <td>{cell(m.fixed_share)}</td>
              <td>{cell(m.bare_share)}</td>
              <td><Button variant="text" aria-label={`set it at ${withUnit(m.best_deg, "angle", units)} for ${MONTHS[m.month - 1]}`} onClick={() => onPut(path, m.best_deg)}>set</Button></td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Typography variant="body2" className="ink-soft">Light of a clear day against the best setting of its month.</Typography>
    </Box>
  );
}

function Turning({ curve, stale }: { curve: TurningCurve; stale: boolean }) {
  const { units } = usePrefs();
  const gain = (value: number) => withUnit(Math.abs(value), curve.quantity, units);
  return (
    <Box sx={{ opacity: stale ? 0.6 : 1 }}>
      <Typography className="weight-650">{say(curve.words, units)}</Typography>
      <Box component="table" sx={(t) => ({ borderCollapse: "collapse", mt: 1, "& td, & th": { borderBottom: `1px solid ${t.ink.rule}`, px: 1, py: 0.25, textAlign: "start" } })}>
        <thead><tr><th scope="col">turned</th><th scope="col">light</th><th scope="col">behind</th><th scope="col">to the target</th></tr></thead>
        <tbody>
          {curve.lines.map((l) => (
            <tr key={String(l.minutes)}>
              <th scope="row">{l.minutes === null ? "never" : `every ${l.minutes} min`}</th>
              <td>{Math.round(l.light_share * 100)} %</td>
              <td>{Math.abs(l.behind) < 0.05 ? "–" : gain(l.behind)}</td>
              <td>{l.minutes_to_target === null ? "not reached" : minutesWords(l.minutes_to_target)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      {curve.spill.length > 0 && (
        <Typography className="mt-1">
          Spilt past the pot after turning: {curve.spill.map((s) => `${Math.round(s.minutes)} min ${Math.round(s.share * 100)} %`).join(", ")}.
        </Typography>
      )}
    </Box>
  );
}
