import { Box, Typography } from "@mui/material";
import type { Outcome } from "../../api/client";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { HourBars } from "../../parts/HourBars";

/** What becomes of the load on the chosen day: how far each portion gets, clean wax, whistles. */
export function LoadResults({ outcome }: { outcome: Outcome }) {
  const { site } = useDay();
  const { units } = usePrefs();
  const { portions, whistles, water, flow } = outcome.results;
  const at = (time: string | null) => (time ? clockTime(time, site.time_zone) : "–");
  return (
    <>
      {outcome.said && <Typography className="weight-650 my-0_5">{say(outcome.said, units)}</Typography>}
      {portions.length > 0 && (
        <Box component="table" className="ruled">
          <thead><tr><th scope="col">portion</th><th scope="col">becomes</th><th scope="col">soft at</th><th scope="col">melted at</th><th scope="col">hottest</th></tr></thead>
          <tbody>
            {portions.map((p) => (
              <tr key={p.node}><th scope="row">{p.title}</th><td><b>{p.state}</b></td><td>{at(p.soft_at)}</td><td>{at(p.melted_at)}</td><td>{withUnit(p.hottest_c, "temperature", units)}</td></tr>
            ))}
          </tbody>
        </Box>
      )}
      {water && <WarmLitres hours={water.hours} warm={withUnit(water.warm_c, "temperature", units)} />}
      {flow?.draws.map((draw) => <DrawnLitres key={draw.time} draw={draw} />)}
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
