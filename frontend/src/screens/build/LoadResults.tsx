import { Box, Typography } from "@mui/material";
import type { Outcome } from "../../api/client";
import { clockTime, dayWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { named } from "../../look/names";
import { usePrefs } from "../../look/prefs";
import { moistureWords, say, shown, withUnit } from "../../look/units";
import { HourBars } from "../../parts/HourBars";

/** What becomes of the load on the chosen day: how far each portion gets, clean wax, whistles. */
export function LoadResults({ outcome }: { outcome: Outcome }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const { portions, whistles, water, flow, pool, loop, kettle, drying, lumber, dry_at: dryAt, scorched_at: burntAt } = outcome.results;
  const at = (time: string | null) => (time ? clockTime(time, site.time_zone) : "–");
  return (
    <>
      {outcome.said && <Typography className="weight-650 my-0_5">{say(outcome.said, units)}</Typography>}
      {portions.length > 0 && (
        <Box component="table" className="ruled">
          <thead><tr><th scope="col">portion</th><th scope="col">becomes</th><th scope="col">soft at</th><th scope="col">melted at</th><th scope="col">hottest</th></tr></thead>
          <tbody>
            {portions.map((p) => (
              <tr key={p.node}><th scope="row">{p.title}</th><td><b>{named(p.state)}</b></td><td>{at(p.soft_at)}</td><td>{at(p.melted_at)}</td><td>{withUnit(p.hottest_c, "temperature", units)}</td></tr>
            ))}
          </tbody>
        </Box>
      )}
      {water && <WarmLitres hours={water.hours} warm={withUnit(water.warm_c, "temperature", units)} />}
      {pool && <PoolDays pool={pool} />}
      {loop && <LoopDays loop={loop} />}
      {drying && <Drying drying={drying} />}
      {lumber && <Boards lumber={lumber} />}
      {kettle && <Kettles kettle={kettle} />}
      {flow?.draws.map((draw) => <DrawnLitres key={draw.time} draw={draw} />)}
      {(dryAt || burntAt) && <Typography className="my-0_5">If nobody takes it off{dryAt && <> it boils dry at <b>{at(dryAt)}</b></>}{dryAt && burntAt && " and"}{burntAt && <> burns from <b>{at(burntAt)}</b> on</>}.</Typography>}
      {whistles.length > 0 && <Typography className="my-0_5">First whistle at {at(whistles[0]!)}, the sixth at {at(whistles[5] ?? null)} if nobody takes it off.</Typography>}
    </>
  );
}

type Results = Outcome["results"];

/** Litres that the water makes at the wanted warmth, at the hours at which it makes any. */
function WarmLitres({ hours, warm }: { hours: NonNullable<Results["water"]>["hours"]; warm: string }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const shown = hours.slice(0, 48).filter((h) => h.litres_l > 0);
  const most = Math.max(1, ...shown.map((h) => h.litres_l));
  if (shown.length === 0) return null;
  const bars = shown.map((h) => ({
    key: h.time, over: withUnit(Math.round(h.litres_l), "volume", units), share: h.litres_l / most, under: clockTime(h.time, site.time_zone),
    title: `${withUnit(h.top_c, "temperature", units)} at the top, ${withUnit(h.bottom_c, "temperature", units)} at the bottom`,
  }));
  return <HourBars label={`litres at ${warm} by the hour`} bars={bars} />;
}

/** Tray by tray: what the scale shows when it is done. */
function Drying({ drying }: { drying: NonNullable<Results["drying"]> }) {
  const { units } = usePrefs();
  const kg = (value: number) => withUnit(value, "mass", units);
  return (
    <Box component="table" className="ruled" aria-label="trays">
      <thead><tr><th scope="col">on the tray</th><th scope="col">laid in</th><th scope="col">weighs at the end</th><th scope="col">dry when it weighs</th><th scope="col">way to mould</th></tr></thead>
      <tbody>
        {drying.trays.map((t) => (
          <tr key={t.node}><th scope="row">{t.title}</th><td>{kg(t.start_kg)}</td><td>{kg(t.weight_kg)}</td><td><b>{kg(t.target_kg)}</b></td><td>{shown(t.mould_share, "share", units)} %{t.mould === "none" ? "" : t.mould === "near" ? ": half way" : ": too far"}</td></tr>
        ))}
      </tbody>
    </Box>
  );
}

/** Group by group: mean, shell and core at the end of the day, and how near it came to the safe rate. */
function Boards({ lumber }: { lumber: NonNullable<Results["lumber"]> }) {
  const { units } = usePrefs();
  if (lumber.groups.length === 0) return null;
  return (
    <Box component="table" className="ruled" aria-label="boards at the end of the day">
      <thead><tr><th scope="col">boards</th><th scope="col">mean</th><th scope="col">shell</th><th scope="col">core</th><th scope="col">meter shows</th><th scope="col">loss of a day</th></tr></thead>
      <tbody>
        {lumber.groups.map((g) => (
          <tr key={g.node}>
            <th scope="row">{say(g.title, units)}</th><td><b>{moistureWords(g.end_mc)}</b></td><td>{moistureWords(g.shell_end_mc)}</td><td>{moistureWords(g.core_end_mc)}</td><td>{moistureWords(g.meter_mc)}{g.meter_unsure ? ", a guess" : ""}</td>
            <td>{moistureWords(g.worst_loss)}{g.safe_per_day === null ? "" : ` of ${moistureWords(g.safe_per_day)} safe`}</td>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

/** Where the heat of open water went, day by day. */
function PoolDays({ pool }: { pool: NonNullable<Results["pool"]> }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const ways = Object.keys(pool.days[0]?.lost_kwh ?? {});
  const heat = (kwh: number) => withUnit(kwh, "energy", units);
  if (pool.days.length === 0) return null;
  return (
    <Box component="table" className="ruled" aria-label="where the water's heat goes">
      <thead><tr><th scope="col">evening</th><th scope="col">water</th><th scope="col">next morning</th><th scope="col">sun on it</th>{ways.map((way) => <th key={way} scope="col">{way}</th>)}</tr></thead>
      <tbody>
        {pool.days.map((day) => (
          <tr key={day.evening}>
            <th scope="row">{clockTime(day.evening, site.time_zone)}</th><td><b>{withUnit(day.evening_c, "temperature", units)}</b></td>
            <td>{day.morning_c === null ? "–" : withUnit(day.morning_c, "temperature", units)}</td><td>{heat(day.sun_kwh)}</td>
            {ways.map((way) => <td key={way}>{heat(-day.lost_kwh[way]!)}</td>)}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

/** What the loop brought, and what the pump took for it: a line each, a column for each day. */
function LoopDays({ loop }: { loop: NonNullable<Results["loop"]> }) {
  const { units } = usePrefs();
  type Day = (typeof loop.days)[number];
  const lines: [string, (day: Day) => string][] = [
    ["brings", (day) => withUnit(day.given_kwh, "energy", units)], ["pump runs", (day) => withUnit(day.pump_h, "hours", units)], ["starts", (day) => `${day.starts}`],
    ["electricity", (day) => withUnit(day.pump_kwh, "energy", units)], ["went round", (day) => withUnit(Math.round(day.went_l), "volume", units)],
    ["backwards", (day) => withUnit(Math.round(day.back_l), "volume", units)],
  ];
  return <Columns label="what the loop brings" corner="loop" over={loop.days.map((day) => dayWords(day.day.slice(0, 10)))} rows={lines.map(([title, of]) => [title, loop.days.map(of)])} />;
}

/** A table that stays narrow: a line each, a column for each day or filling; the first line is what matters. */
function Columns({ label, corner, over, rows }: { label: string; corner: string; over: string[]; rows: [string, string[]][] }) {
  return (
    <Box component="table" className="ruled" aria-label={label}>
      <thead><tr><th scope="col">{corner}</th>{over.map((title) => <th key={title} scope="col">{title}</th>)}</tr></thead>
      <tbody>
        {rows.map(([title, cells], line) => (
          <tr key={title}><th scope="row">{title}</th>{cells.map((cell, k) => <td key={over[k]}>{line === 0 ? <b>{cell}</b> : cell}</td>)}</tr>
        ))}
      </tbody>
    </Box>
  );
}

/** Each filling of a kettle. */
function Kettles({ kettle }: { kettle: NonNullable<Results["kettle"]> }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const at = (time: string | null) => (time ? clockTime(time, site.time_zone) : "never");
  const fills = kettle.days.flatMap((day) => day.fills);
  if (fills.length === 0) return null;
  const lines: [string, (fill: (typeof fills)[number]) => string][] = [
    ["hot at", (fill) => at(fill.hot_at)], ["takes", (fill) => (fill.minutes === null ? "–" : withUnit(fill.minutes, "minutes", units))],
    ["wanted at", (fill) => at(fill.wanted_at)], ["then it is", (fill) => withUnit(fill.at_wanted_c, "temperature", units)],
    ["after an hour", (fill) => withUnit(fill.after_hour_c, "temperature", units)], ["gets", (fill) => withUnit(fill.gained_w, "power", units)],
    ["boils off", (fill) => withUnit(fill.steam_l, "volume", units)],
  ];
  return <Columns label="each filling" corner="put out at" over={fills.map((fill) => at(fill.put_out))} rows={lines.map(([title, of]) => [title, fills.map(of)])} />;
}

/** One draw litre by litre. */
function DrawnLitres({ draw }: { draw: NonNullable<Results["flow"]>["draws"][number] }) {
  const { site } = useDay();
  const { units } = usePrefs();
  return (
    <Typography className="my-0_5">
      {clockTime(draw.time, site.time_zone)}, litre by litre: {draw.litres.slice(0, 12).map((l) => withUnit(l.celsius_c, "temperature", units)).join(", ")}{draw.litres.length > 12 && " …"}.
    </Typography>
  );
}
