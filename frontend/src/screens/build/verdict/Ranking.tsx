import { Box, Button, Typography, useTheme } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answered, asProblem, client, type Verdict } from "../../../api/client";
import { counted } from "../../../look/counted";
import { clockTime } from "../../../look/clock";
import { useDay } from "../../../look/day";
import { useNotices } from "../../../look/notices";
import { usePrefs } from "../../../look/prefs";
import { say, withUnit } from "../../../look/units";
import { capital } from "../../../look/words";

type Finish = NonNullable<Verdict["finishes"][number]["row"]>;
type RankingView = NonNullable<Verdict["ranking"]>;

/** From the hottest down: how far over the control, with the doubt as a whisker; what a kelvin costs; what it would take. */
export function Ranking({ ranking, finishes, fadings }: { ranking: RankingView; finishes: Verdict["finishes"]; fadings: Verdict["fadings"] }) {
  const { units } = usePrefs();
  const reach = Math.max(1, ...ranking.lines.map((l) => Math.abs(l.over_control_k ?? 0) + (l.doubt_k ?? 0)));
  return (
    <Box component="section" aria-label="ranking" className="my-1">
      <Typography variant="h2">Ranking</Typography>
      <Box className="overflow-x-auto" tabIndex={0} role="region" aria-label="ranking of the samples">
        <Box component="table" sx={(t) => ({ borderCollapse: "collapse", width: "100%", fontSize: 14.5, "& td, & th": { borderTop: `1px solid ${t.ink.rule}`, py: 0.5, paddingInlineEnd: 1.5, textAlign: "start", verticalAlign: "middle" } })}>
          <thead>
            <tr><th scope="col">sample</th><th scope="col">over the control</th><th scope="col">with its doubt</th><th scope="col">is it real</th><th scope="col">for {withUnit(1, "area", units)}</th><th scope="col">and for {withUnit(1, "difference", units)}</th><th scope="col">absorptance</th></tr>
          </thead>
          <tbody>
            {ranking.lines.map((l) => {
              const finish = finishes.find((f) => f.sample === l.sample);
              return (
                <tr key={l.sample}>
                  <th scope="row">{l.title}<Typography component="span" variant="body2"> {l.over_control_k == null ? "control" : counted(l.coats, "coat")}, {l.place}</Typography></th>
                  <td>{l.over_control_k == null ? "–" : <><b>{withUnit(l.over_control_k, "difference", units, { doubt: l.doubt_k, signed: true })}</b></>}</td>
                  <td style={{ width: "24%", minWidth: 120 }}>{l.over_control_k != null && <Whisker value={l.over_control_k} doubt={l.doubt_k!} reach={reach} real={l.real ?? false} />}</td>
                  <td title={say(l.to_tell, units)}>{l.real == null ? "" : l.real ? "real" : "too small to tell"}</td>
                  <td>{withUnit(l.price_m2, "price", units)}</td>
                  <td>{l.price_per_k == null ? "–" : withUnit(l.price_per_k, "price", units)}</td>
                  <td>
                    {finish ? `${finish.absorptance.value.toFixed(2)} (${finish.absorptance.low.toFixed(2)}–${finish.absorptance.high.toFixed(2)})` : "–"}
                    {finish?.row && <ToShelf row={finish.row} />}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Box>
      </Box>
      {ranking.pays.length > 0 && <Typography className="mt-1 weight-700">{capital(say(ranking.pays, units))}</Typography>}
      {ranking.lines.filter((l) => l.to_tell.length > 0).map((l) => <Typography key={l.sample} variant="body2">{l.title}: {say(l.to_tell, units)}</Typography>)}
      {fadings.map((f) => <Typography key={f.sample}>{capital(say(f.words, units))}</Typography>)}
      <Rounds ranking={ranking} />
    </Box>
  );
}

/** A finish as it was measured, doubt and all, onto one's own shelf: builds can be tried with it. */
function ToShelf({ row }: { row: Finish }) {
  const notices = useNotices();
  const cache = useQueryClient();
  const put = useMutation({
    mutationFn: () => answered(client.POST("/api/materials", { body: { absorber: row } })),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["materials"] });
      notices.say(`${capital(row.title)} is on the shelf; “next” of each build tries it.`);
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const words = put.isSuccess ? "on the shelf" : "to the shelf";
  return <Button variant="text" disabled={put.isPending || put.isSuccess} aria-label={`${words}: ${row.title}`} onClick={() => put.mutate()}>{words}</Button>;
}

function Rounds({ ranking }: { ranking: RankingView }) {
  const { site } = useDay();
  const { units } = usePrefs();
  return (
    <Box component="details" className="mt-0_5">
      <summary>{ranking.rounds_used} of {ranking.rounds.length} rounds counted{ranking.settled_from_minutes > 0 ? `, from ${ranking.settled_from_minutes} min on` : ""}; scatter {withUnit(ranking.scatter_k, "difference", units)}</summary>
      <Box component="ul" className="m-0">
        {ranking.rounds.map((r) => (
          <li key={r.number}>
            {clockTime(r.start, site.time_zone)}: {Object.keys(r.readings).length} read{r.moved_k != null && `, the first moved ${withUnit(r.moved_k, "difference", units, { signed: true })} meanwhile`}{r.left_out.length > 0 && `; left out: ${say(r.left_out, units)}`}
          </li>
        ))}
      </Box>
    </Box>
  );
}

function Whisker({ value, doubt, reach, real }: { value: number; doubt: number; reach: number; real: boolean }) {
  const { ink } = useTheme();
  const x = (k: number) => 50 + (k / reach) * 48;
  return (
    <svg viewBox="0 0 100 14" width="100%" height={14} preserveAspectRatio="none" aria-hidden>
      <line x1={50} x2={50} y1={0} y2={14} stroke={ink.ink} strokeWidth={0.6} />
      <rect x={Math.min(50, x(value))} width={Math.abs(x(value) - 50)} y={4} height={6} fill={real ? ink.plum : ink.rule} />
      <line x1={x(value - doubt)} x2={x(value + doubt)} y1={7} y2={7} stroke={ink.ink} strokeWidth={1} />
    </svg>
  );
}
