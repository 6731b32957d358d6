import { Box, Button, Typography, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import type { AimAnswer } from "../../api/client";
import { aimQuery } from "../../api/queries";
import { clockTime, compass } from "../../look/clock";
import { useDay } from "../../look/day";
import { NumberField } from "../../parts/NumberField";
import { Problem, Waiting } from "../../parts/Problem";
import { useWidth } from "../../parts/useWidth";
import { Pointing } from "./Pointing";
import type { BuildState } from "./useBuild";

/** Where it stands: the sun's path over the spot's skyline, direction and tilt, the spots by the hour, the schools of tilt. */
export function AimStage({ state }: { state: BuildState }) {
  const { siteId, day, site, lamp } = useDay();
  const { spec, spot } = state.draft!;
  const aim = useQuery(aimQuery(siteId, spot, spec.tilt_deg ?? 30, spec.facing_deg, day));
  if (aim.error) return <Problem error={aim.error} />;
  if (!aim.data) return <Waiting what="Following the sun" />;
  const { view, schools } = aim.data;
  const here = spot ?? site.spots![0]!.name;
  const set = (change: { facing_deg?: number; tilt_deg?: number }, note: string) => state.save({ spec: { ...spec, ...change } }, note);
  const rows: [string, number][] = [
    ["the latitude", schools.latitude_rule_deg],
    ["the stock 45°", schools.stock_deg],
    ["summer, latitude − 15°", schools.summer_deg],
    ["spring and autumn, latitude", schools.equinox_deg],
    ["winter, latitude + 15°", schools.winter_deg],
    ["most clear-sky sun in a year", schools.best_year_deg],
  ];
  return (
    <Box sx={{ p: 2, opacity: aim.isPlaceholderData ? 0.6 : 1 }}>
      <SkyView view={view} lamp={lamp} facing={spec.facing_deg} spot={here} />
      <Typography variant="body2" sx={(t) => ({ color: t.ink.soft })}>
        Looking towards the equator from “{here}”. Solar noon {clockTime(view.solar_noon, site.time_zone)}, sun {Math.round(view.noon_altitude_deg)}° high in the {compass(view.noon_azimuth_deg)}. Dark: what hides the sky.
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1.5fr) minmax(0, 1.2fr)", gap: 3, mt: 2, "@media (max-width: 760px)": { gridTemplateColumns: "minmax(0, 1fr)" } }}>
        <Box>
          <Typography variant="h2" sx={{ mb: 1 }}>How it stands</Typography>
          <NumberField label="Faces (from north, clockwise)" value={spec.facing_deg} quantity="angle" hint={`that is ${compass(spec.facing_deg)}`} problem={state.problem?.about("facing_deg")} onCommit={(facing_deg) => set({ facing_deg }, "facing")} />
          <NumberField label={spec.kind === "funnel" || spec.kind === "dish" ? "Axis leans from upright" : "Tilt of the opening"} value={spec.tilt_deg ?? 30} quantity="angle" hint="from level" problem={state.problem?.about("tilt_deg")} onCommit={(tilt_deg) => set({ tilt_deg }, "tilt")} />
        </Box>
        <Box>
          <Typography variant="h2">Spots by the hour</Typography>
          <Typography variant="body2" sx={(t) => ({ color: t.ink.soft, mb: 1 })}>Sun on a plane set like this opening, clear day; the best is {view.best_spot}.</Typography>
          {view.spots.map((s) => (
            <SpotRow key={s.spot} spot={s} chosen={s.spot === here} onChoose={() => state.save({ spot: s.spot }, `moved to ${s.spot}`)} />
          ))}
        </Box>
        <Box>
          <Typography variant="h2">Schools of tilt</Typography>
          <Box component="dl" sx={{ display: "grid", gridTemplateColumns: "1fr auto auto", rowGap: 0.25, columnGap: 1, m: 0, mt: 1, alignItems: "center" }}>
            {rows.map(([name, tilt]) => (
              <Fragment key={name}>
                <dt>{name}</dt>
                <Box component="dd" sx={{ m: 0, fontWeight: 700 }}>{Math.round(tilt)}°</Box>
                <Box component="dd" sx={{ m: 0 }}><Button variant="text" aria-label={`set the tilt to ${Math.round(tilt)}°`} onClick={() => set({ tilt_deg: Math.round(tilt) }, `tilt ${Math.round(tilt)}°`)}>set</Button></Box>
              </Fragment>
            ))}
          </Box>
        </Box>
      </Box>
      {spec.kind !== "samples" && <Pointing state={state} />}
    </Box>
  );
}

const SKY_HEIGHT = 240;

function SkyView({ view, lamp, facing, spot }: { view: AimAnswer["view"]; lamp: number; facing: number; spot: string }) {
  const { ink } = useTheme();
  const { site } = useDay();
  const [ref, width] = useWidth();
  const middle = site.latitude_deg >= 0 ? 180 : 0;
  const wide = width || 900;
  const off = (azimuth: number) => ((azimuth - middle + 540) % 360) - 180;
  const x = (azimuth: number) => wide / 2 + (off(azimuth) / 150) * (wide / 2);
  const y = (altitude: number) => SKY_HEIGHT - 20 - (altitude / 90) * (SKY_HEIGHT - 30);
  // Walk from one end of the view to the other, so that the outline does not jump where azimuth wraps.
  const sweep = Array.from({ length: 301 }, (_, k) => (middle - 150 + k + 360) % 360);
  const edge = sweep.map((a, k) => `${k ? "L" : "M"}${((k / 300) * wide).toFixed(1)} ${y(view.skyline_deg[Math.round(a) % 360] ?? 0).toFixed(1)}`).join("");
  const sun = [...view.path].map((p) => ({ ...p, at: Date.parse(p.time) }));
  const near = sun.reduce((best, p) => (Math.abs(p.at - lamp) < Math.abs(best.at - lamp) ? p : best), sun[0] ?? { at: 0, altitude_deg: -5, azimuth_deg: 0, clear_of_skyline: false, time: "" });
  const run = sun.map((p, k) => `${k ? "L" : "M"}${x(p.azimuth_deg).toFixed(1)} ${y(p.altitude_deg).toFixed(1)}`).join("");
  return (
    <Box ref={ref}>
    <svg viewBox={`0 0 ${wide} ${SKY_HEIGHT}`} width="100%" height={SKY_HEIGHT} role="img" aria-label={`sun's path over the skyline of ${spot}`}>
      {[15, 30, 45, 60, 75].map((a) => (
        <g key={a}>
          <line x1={0} x2={wide} y1={y(a)} y2={y(a)} stroke={ink.rule} />
          <text x={4} y={y(a) - 3} fontSize={11} fill={ink.soft}>{a}°</text>
        </g>
      ))}
      <path d={`${edge}L${wide} ${SKY_HEIGHT}L0 ${SKY_HEIGHT}Z`} fill={ink.ink} opacity={0.86} />
      <path d={run} fill="none" stroke={ink.sun} strokeWidth={3} />
      {sun.filter((p) => new Date(p.at).getUTCMinutes() === 0 && p.altitude_deg > 0).map((p) => (
        <g key={p.time}>
          <circle cx={x(p.azimuth_deg)} cy={y(p.altitude_deg)} r={4} fill={p.clear_of_skyline ? ink.sun : ink.ink} stroke={p.clear_of_skyline ? ink.ink : ink.paper} />
          <text x={x(p.azimuth_deg)} y={y(p.altitude_deg) - 8} fontSize={11} textAnchor="middle" fill={p.clear_of_skyline ? ink.ink : ink.paper}>{clockTime(p.at, site.time_zone).slice(0, 2)}</text>
        </g>
      ))}
      <line x1={x(facing)} x2={x(facing)} y1={10} y2={SKY_HEIGHT - 20} stroke={ink.oven} strokeWidth={2} strokeDasharray="8 5" />
      <text x={x(facing) + 5} y={20} fontSize={13} fill={ink.oven}>faces {compass(facing)}</text>
      {near.altitude_deg > 0 && <circle cx={x(near.azimuth_deg)} cy={y(near.altitude_deg)} r={9} fill={ink.sun} stroke={ink.ink} strokeWidth={2} />}
      {(middle === 180 ? [60, 90, 135, 180, 225, 270, 300] : [240, 270, 315, 0, 45, 90, 120]).map((a) => (
        <text key={a} x={x(a)} y={SKY_HEIGHT - 6} fontSize={13} textAnchor="middle" fill={ink.paper} fontWeight={700}>{compass(a)}</text>
      ))}
    </svg>
    </Box>
  );
}

function SpotRow({ spot, chosen, onChoose }: { spot: AimAnswer["view"]["spots"][number]; chosen: boolean; onChoose: () => void }) {
  const { ink } = useTheme();
  const hours = spot.wh_m2_by_hour.slice(4, 22);
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
      <Button variant={chosen ? "contained" : "outlined"} aria-pressed={chosen} onClick={() => !chosen && onChoose()} sx={{ width: 120 }}>{spot.spot}</Button>
      <svg viewBox="0 0 180 34" width={200} height={38} role="img" aria-label={`${spot.spot}: ${spot.kwh_m2.toFixed(1)} kWh/m² through the day`}>
        {hours.map((wh, k) => (
          <rect key={k} x={k * 10} y={34 - (wh / 1000) * 32} width={8.5} height={(wh / 1000) * 32} fill={ink.sun}><title>{`${k + 4}:00 ${Math.round(wh)} Wh/m²`}</title></rect>
        ))}
        <line x1={0} x2={180} y1={33.5} y2={33.5} stroke={ink.ink} />
      </svg>
      <b>{spot.kwh_m2.toFixed(1)}</b> kWh/m²
    </Box>
  );
}
