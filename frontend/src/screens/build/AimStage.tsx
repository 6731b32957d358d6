import { Box, Button, Typography, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import type { AimAnswer } from "../../api/client";
import { aimQuery } from "../../api/queries";
import { clockTime, compass } from "../../look/clock";
import { useDay, useLamp } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { Problem, Waiting } from "../../parts/Problem";
import { Asked } from "../../parts/Asked";
import { SpecForm } from "../../parts/SpecForm";
import { useWidth } from "../../parts/useWidth";
import { useForm, useKind } from "../../kinds";
import { useWhatCardsAsk } from "./PartCard";
import { Pointing } from "./Pointing";
import { TiltYear } from "./TiltYear";
import type { BuildState } from "./useBuild";
import { useEdit } from "./useEdit";

/** Where it stands: the sun's path over the spot's skyline, direction and tilt, the spots by the hour, the schools of tilt. */
export function AimStage({ state }: { state: BuildState }) {
  const { siteId, day, site } = useDay();
  const { lamp } = useLamp();
  const { spec, spot } = state.draft!;
  const kind = useKind(spec);
  const aimed = useForm("builds", spec.kind).filter((f) => f.part === "aim");
  const edit = useEdit(state, "spec");
  const materials = useWhatCardsAsk();
  const aim = useQuery(aimQuery(siteId, spot, spec.tilt_deg, spec.facing_deg, day));
  if (aim.error) return <Problem error={aim.error} />;
  if (!aim.data) return <Waiting what="Following the sun" />;
  const { view, schools } = aim.data;
  const here = spot ?? site.spots[0]!.name;
  const set = (change: { facing_deg?: number; tilt_deg?: number }, note: string) => state.save((draft) => ({ spec: { ...draft.spec, ...change } }), note);
  const rows: [string, number][] = [
    ["the latitude", schools.latitude_rule_deg],
    ["the stock 45°", schools.stock_deg],
    ["summer, latitude − 15°", schools.summer_deg],
    ["spring and autumn, latitude", schools.equinox_deg],
    ["winter, latitude + 15°", schools.winter_deg],
    ["most clear-sky sun in a year", schools.best_year_deg],
  ];
  return (
    <Box className={aim.isPlaceholderData ? "p-2 stale" : "p-2"}>
      <SkyView view={view} lamp={lamp} facing={spec.facing_deg} spot={here} />
      <Typography variant="body2" className="ink-soft">
        Looking towards the equator from “{here}”. Solar noon {clockTime(view.solar_noon, site.time_zone)}, sun {Math.round(view.noon_altitude_deg)}° high in the {compass(view.noon_azimuth_deg)}. Dark: what hides the sky.
      </Typography>
      <Box className="reading-columns three">
        <Box>
          <Typography variant="h2" className="mb-1">How it stands</Typography>
          {materials && <SpecForm fields={aimed} values={spec as unknown as Record<string, unknown>} edit={edit} materials={materials} picked={null} />}
          <Typography variant="body2">It faces {compass(spec.facing_deg)}.</Typography>
        </Box>
        <Box>
          <Typography variant="h2">Spots by the hour</Typography>
          <Typography variant="body2" className="ink-soft mb-1">Sun on a plane set like this opening, clear day; the best is {view.best_spot}.</Typography>
          {view.spots.map((s) => (
            <SpotRow key={s.spot} spot={s} chosen={s.spot === here} onChoose={() => state.save({ spot: s.spot }, `moved to ${s.spot}`)} />
          ))}
        </Box>
        <Box>
          <Typography variant="h2">Schools of tilt</Typography>
          <Box component="dl" className="grid columns-1fr-auto-auto row-gap-0_25 column-gap-1 m-0 mt-1 items-center">
            {rows.map(([name, tilt]) => (
              <Fragment key={name}>
                <dt>{name}</dt>
                <Box component="dd" className="m-0 weight-700">{Math.round(tilt)}°</Box>
                <Box component="dd" className="m-0"><Button variant="text" aria-label={`set the tilt to ${Math.round(tilt)}°`} onClick={() => set({ tilt_deg: Math.round(tilt) }, `tilt ${Math.round(tilt)}°`)}>set</Button></Box>
              </Fragment>
            ))}
          </Box>
        </Box>
        {!kind.side_by_side && <Box><Asked title="Tilt by the month" door="The best, and fixed marks"><TiltYear state={state} /></Asked></Box>}
      </Box>
      {!kind.side_by_side && <Pointing state={state} />}
    </Box>
  );
}

const SKY_HEIGHT = 240;

function SkyView({ view, lamp, facing, spot }: { view: AimAnswer["view"]; lamp: number; facing: number; spot: string }) {
  const { ink } = useTheme();
  const { site } = useDay();
  const [ref, width] = useWidth();
  const middle = view.middle_azimuth_deg;
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
      {sun.filter((p) => p.altitude_deg > 0 && clockTime(p.at, site.time_zone).endsWith(":00")).map((p) => (
        <g key={p.time}>
          <circle cx={x(p.azimuth_deg)} cy={y(p.altitude_deg)} r={4} fill={p.clear_of_skyline ? ink.sun : ink.ink} stroke={p.clear_of_skyline ? ink.ink : ink.paper} />
          <text x={x(p.azimuth_deg)} y={y(p.altitude_deg) - 8} fontSize={11} textAnchor="middle" fill={p.clear_of_skyline ? ink.ink : ink.paper}>{clockTime(p.at, site.time_zone).slice(0, 2)}</text>
        </g>
      ))}
      <line x1={x(facing)} x2={x(facing)} y1={10} y2={SKY_HEIGHT - 20} stroke={ink.ink} strokeWidth={2} strokeDasharray="8 5" />
      <text x={x(facing) + 5} y={20} fontSize={13} fill={ink.ink}>faces {compass(facing)}</text>
      {near.altitude_deg > 0 && <circle cx={x(near.azimuth_deg)} cy={y(near.altitude_deg)} r={9} fill={ink.sun} stroke={ink.ink} strokeWidth={2} />}
      {[-120, -90, -45, 0, 45, 90, 120].map((by) => (middle + by + 360) % 360).map((a) => (
        <text key={a} x={x(a)} y={SKY_HEIGHT - 6} fontSize={13} textAnchor="middle" fill={ink.paper} fontWeight={700}>{compass(a)}</text>
      ))}
    </svg>
    </Box>
  );
}

function SpotRow({ spot, chosen, onChoose }: { spot: AimAnswer["view"]["spots"][number]; chosen: boolean; onChoose: () => void }) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const hours = spot.wh_m2_by_hour.slice(4, 22);
  return (
    <Box className="flex items-center gap-1 mb-1">
      <Button variant={chosen ? "contained" : "outlined"} aria-pressed={chosen} onClick={() => !chosen && onChoose()} className="width-120">{spot.spot}</Button>
      <svg viewBox="0 0 180 34" width={180} height={38} role="img" aria-label={`${spot.spot}: ${withUnit(spot.kwh_m2, "exposure", units)} through the day`}>
        {hours.map((wh, k) => (
          <rect key={k} x={k * 10} y={34 - (wh / 1000) * 32} width={8.5} height={(wh / 1000) * 32} fill={ink.sun}><title>{`${k + 4}:00 ${withUnit(wh / 1000, "exposure", units)}`}</title></rect>
        ))}
        <line x1={0} x2={180} y1={33.5} y2={33.5} stroke={ink.ink} />
      </svg>
      <b className="one-line">{withUnit(spot.kwh_m2, "exposure", units)}</b>
    </Box>
  );
}
