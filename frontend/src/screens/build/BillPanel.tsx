import { Box, Button, Link as MuiLink, Typography, useTheme } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answered, asProblem, client, type BillView, type BuildView, type MadeOf } from "../../api/client";
import { madeOfQuery } from "../../api/queries";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { say, shown, withUnit, type Units } from "../../look/units";
import { Problem, Waiting } from "../../parts/Problem";
import { Words } from "./Words";

/** The bill of a build: its pieces with weight, price and what the pile gives, and how sheets and bars are cut. */
export function BillPanel({ build }: { build: BuildView }) {
  const { data, error, isPlaceholderData } = useQuery(madeOfQuery(build.id, build.revision));
  if (error) return <Problem error={error} />;
  if (!data) return <Waiting what="Counting the pieces" />;
  return (
    <Box component="section" aria-label="what it is made of" sx={{ opacity: isPlaceholderData ? 0.6 : 1 }}>
      {data.made.words.map((words, k) => <Words key={k} said={words} />)}
      <Pieces made={data.made} />
      <SetAside build={build} bill={data} />
      <Cuts cuts={data.made.cuts} />
      <Left left={data.made.pile.left} />
      <Typography variant="body2" className="mt-1">
        To take along: <MuiLink href={`/api/builds/${build.id}/bill.csv`} download>bill as CSV</MuiLink>, <MuiLink href={`/api/builds/${build.id}/bill.xlsx`} download>with the cuts as XLSX</MuiLink>, <MuiLink href={`/api/builds/${build.id}/sheet.html`} download>all of it on one sheet to build from</MuiLink>, <MuiLink href={`/api/builds/${build.id}/section.svg`} download>the drawing</MuiLink>.
      </Typography>
    </Box>
  );
}

/** What of the pile is kept for this build alone, and letting go of it. */
function SetAside({ build, bill }: { build: BuildView; bill: BillView }) {
  const cache = useQueryClient();
  const notices = useNotices();
  const path = { params: { path: { id: build.id } } };
  const change = useMutation({
    mutationFn: (keep: boolean) => answered(keep ? client.POST("/api/builds/{id}/set-aside", path) : client.DELETE("/api/builds/{id}/set-aside", path)),
    onSuccess: () => { for (const key of ["bill", "sheets", "could"]) void cache.invalidateQueries({ queryKey: [key] }); },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const used = bill.made.pile.used;
  if (used.length === 0 && bill.kept.length === 0) return null;
  return (
    <Box className="flex wrap gap-1 items-center">
      <Typography className="flex-1" role="status">{bill.kept.length > 0 ? <>Set aside for it: {bill.kept.map((c) => `${times(c.count)}${c.name}`).join(", ")}.</> : <>The pile gives {used.map((u) => `${times(u.count)}${u.name}`).join(", ")}; other builds may still take it.</>}</Typography>
      {used.length > 0 && <Button variant="outlined" disabled={change.isPending} onClick={() => change.mutate(true)}>Set it aside</Button>}
      {bill.kept.length > 0 && <Button disabled={change.isPending} onClick={() => change.mutate(false)}>Let go of it</Button>}
    </Box>
  );
}

function Pieces({ made }: { made: MadeOf }) {
  const { units } = usePrefs();
  const hasPile = made.pile.taken.some((t) => t.count > 0);
  return (
    <Box className="overflow-x-auto">
      <Box component="table" className="ruled" aria-label="pieces">
        <thead><tr><th scope="col">piece</th><th scope="col">of</th><th scope="col">how many</th><th scope="col">size</th><th scope="col">weight</th><th scope="col">new</th>{hasPile && <th scope="col">from the pile</th>}</tr></thead>
        <tbody>
          {made.pieces.map((p, k) => (
            <tr key={k}>
              <th scope="row">{p.title}{p.note.length > 0 && <span className="ink-soft">, {say(p.note, units)}</span>}</th>
              <td>{p.of}</td><td>{p.count}</td><td className="one-line">{sizeOf(p, units)}</td>
              <td className="one-line">{withUnit(p.kg * p.count, "mass", units)}</td><td className="one-line">{withUnit(p.price * p.count, "price", units)}</td>
              {hasPile && <td>{fromPile(made.pile.taken[k]!)}</td>}
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

/** Sides of what is cut, with the unit once; of paint the area. */
function sizeOf(p: MadeOf["pieces"][number], units: Units): string {
  if (p.family === "finish") return withUnit(p.long_m * p.wide_m, "area", units);
  return sides([p.long_m, p.wide_m, p.thick_m], units) || "–";
}

function sides(lengths: number[], units: Units): string {
  const real = lengths.filter((side) => side > 0);
  return real.map((side, k) => (k === real.length - 1 ? withUnit(side, "length", units) : shown(side, "length", units))).join(" × ");
}

function fromPile(taken: MadeOf["pile"]["taken"][number]): string {
  return taken.count === 0 ? "–" : `${taken.count} from ${taken.names.join(", ")}`;
}

const SCALE = 84;

/** Each sheet and bar to one scale, longest side across; offcuts stay white. */
function Cuts({ cuts }: { cuts: MadeOf["cuts"] }) {
  const { units } = usePrefs();
  if (cuts.boards.length === 0) return null;
  const flat = alike(cuts.boards.filter((b) => b.wide_m > 0));
  const bars = alike(cuts.boards.filter((b) => b.wide_m === 0));
  return (
    <Box component="section" aria-label="how it is cut" className="mt-1">
      <Typography variant="h3">How it is cut</Typography>
      {cuts.words.map((words, k) => <Typography key={k} variant="body2">{say(words, units)}</Typography>)}
      <Box className="flex wrap gap-2 mt-0_5">{flat.map(([b, many], k) => <SheetDrawing key={k} board={b} many={many} />)}</Box>
      {bars.length > 0 && (
        <Box component="ul" className="m-0 mt-1 pl-2_25 size-14">
          {bars.map(([b, many], k) => (
            <li key={k}>{times(many)}{b.of}, {withUnit(b.long_m, "length", units)}: {b.laid.map((l) => shown(l.long_m, "length", units)).join(" + ")}{b.offcut && `; ${withUnit(b.offcut.long_m, "length", units)} left`}</li>
          ))}
        </Box>
      )}
    </Box>
  );
}

type Board = MadeOf["cuts"]["boards"][number];

/** Boards that are cut alike, once each, with how many. */
function alike(boards: Board[]): [Board, number][] {
  const found = new Map<string, [Board, number]>();
  for (const board of boards) {
    const key = JSON.stringify(board);
    found.set(key, [board, (found.get(key)?.[1] ?? 0) + 1]);
  }
  return [...found.values()];
}

const times = (many: number) => (many > 1 ? `${many} × ` : "");

function SheetDrawing({ board, many }: { board: Board; many: number }) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const [wide, high] = [board.long_m * SCALE, board.wide_m * SCALE];
  const name = `${times(many)}${board.of}, ${withUnit(board.thick_m, "length", units)}`;
  return (
    <Box component="figure" className="m-0">
      <svg width={wide + 2} height={high + 2} viewBox={`-1 -1 ${wide + 2} ${high + 2}`} role="img" aria-label={`${name}: ${board.laid.length} pieces`}>
        <rect width={wide} height={high} fill={ink.raised} stroke={ink.ink} />
        {board.laid.map((l, k) => (
          <g key={k}>
            <title>{`${l.title}, ${sides([l.long_m, l.wide_m], units)}`}</title>
            <rect x={l.x_m * SCALE} y={(board.wide_m - l.y_m - l.wide_m) * SCALE} width={l.long_m * SCALE} height={l.wide_m * SCALE} fill={ink.wood} fillOpacity={0.45} stroke={ink.ink} strokeWidth={0.8} />
            {Math.min(l.long_m * SCALE / (l.title.length * 5.4), l.wide_m * SCALE / 13) > 1 && <text x={(l.x_m + l.long_m / 2) * SCALE} y={(board.wide_m - l.y_m - l.wide_m / 2) * SCALE + 4} textAnchor="middle" fontSize={10.5} fill={ink.ink}>{l.title}</text>}
          </g>
        ))}
      </svg>
      <Typography component="figcaption" variant="body2">{name}{board.offcut && <span className="ink-soft">; {sides([board.offcut.long_m, board.offcut.wide_m], units)} left</span>}</Typography>
    </Box>
  );
}

function Left({ left }: { left: MadeOf["pile"]["left"] }) {
  const { units } = usePrefs();
  const cut = left.filter((l) => l.is_offcut);
  if (cut.length === 0) return null;
  return (
    <Typography variant="body2" className="mt-1">
      Left of what is cut from the pile: {cut.map((l) => `${times(l.count)}${l.name}, ${sides([l.long_m, l.wide_m], units)}`).join("; ")}.
    </Typography>
  );
}
