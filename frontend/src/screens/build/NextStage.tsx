import { Box, Button, Typography, useTheme } from "@mui/material";
import { type DirectAnswers, type SayingLine, type SchoolAnswer, type Weakest } from "../../api/client";
import { useHeavy } from "../../api/heavy";
import { directQuery, sayingsQuery, schoolsQuery, weakestQuery } from "../../api/queries";
import { minutesWords } from "../../look/clock";
import { useAccent, useKind } from "../../kinds";
import { usePrefs } from "../../look/prefs";
import { say, withUnit, type Quantity } from "../../look/units";
import { Progress } from "../../parts/Progress";
import { UpkeepPanel } from "./UpkeepPanel";
import type { BuildState } from "./useBuild";
import { named } from "../../look/names";

/** What to change next: every single change ranked, the schools side by side, and sayings put to the twin. */
export function NextStage({ state }: { state: BuildState }) {
  const request = state.request!;
  const kind = useKind(state.draft!.spec);
  const weakest = useHeavy(weakestQuery(request), !kind.side_by_side);
  const direct = useHeavy(directQuery(request), weakest.data !== undefined && !weakest.isFetching);
  const schools = useHeavy(schoolsQuery(request), direct.data !== undefined && !direct.isFetching);
  const sayings = useHeavy(sayingsQuery(request), schools.data !== undefined && !schools.isFetching);
  if (kind.side_by_side) {
    return (
      <Box className="p-2 max-width-1060">
        <Typography>These are compared with one another; see the verdict of their trials.</Typography>
        <UpkeepPanel state={state} />
      </Box>
    );
  }
  return (
    <Box className="p-2 max-width-1060">
      <Progress answer={weakest} what="Trying every single change" />
      {weakest.data && <Changes found={weakest.data} stale={weakest.isPlaceholderData} state={state} />}
      <Progress answer={direct} what="Answering what people ask first" />
      {direct.data && direct.data.answers.length > 0 && <Straight found={direct.data} stale={direct.isPlaceholderData} state={state} />}
      <Progress answer={schools} what="Running the schools side by side" />
      {schools.data && schools.data.length > 0 && <Schools answers={schools.data} stale={schools.isPlaceholderData} />}
      <UpkeepPanel state={state} />
      <Progress answer={sayings} what="Putting sayings to the twin" />
      {sayings.data && sayings.data.length > 0 && <Sayings lines={sayings.data} stale={sayings.isPlaceholderData} />}
    </Box>
  );
}

function useGain() {
  const { units } = usePrefs();
  return (value: number, quantity: Quantity) => withUnit(Math.abs(value), quantity, units);
}

function Changes({ found, stale, state }: { found: Weakest; stale: boolean; state: BuildState }) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const gain = useGain();
  const accent = useAccent(state.draft!.spec);
  const widest = Math.max(...found.lines.map((l) => Math.abs(l.gain) + l.doubt), 0.1);
  const x = (value: number) => 100 + (value / widest) * 98;
  return (
    <Box component="section" aria-label="weakest link" sx={{ opacity: stale ? 0.6 : 1 }}>
      <Typography variant="h1">{say(found.best, units)}</Typography>
      {found.today && <Typography className="border-left-6-stop pl-1_5 my-1 weight-700">{say(found.today, units)}</Typography>}
      <Typography className="mb-1">{say(found.per_money, units)} Each line is one change alone, run on the chosen day; the whisker is the twin’s doubt. Counted is the {say(found.counts, units)}. What lies within the doubt of the best of its rank shares it, the least work first.</Typography>
      {found.lines.map((l, k) => (
        <Box key={say(l.title, units)} className="change-row border-top-1-rule">
          <Typography sx={{ fontWeight: l.real && l.gain > 0 && l.rank !== null ? 700 : 400 }}>{rankWords(l, found.lines[k - 1])}{say(l.title, units)}</Typography>
          <svg viewBox="0 0 200 18" width={200} height={18} role="img" aria-label={`${l.gain >= 0 ? "gains" : "loses"} ${gain(l.gain, l.quantity)}`}>
            <rect x={Math.min(100, x(l.gain))} width={Math.abs(x(l.gain) - 100)} y={4} height={10} fill={l.real ? accent : ink.rule} />
            <line x1={x(l.gain - l.doubt)} x2={x(l.gain + l.doubt)} y1={9} y2={9} stroke={ink.ink} />
            <line x1={100} x2={100} y1={0} y2={18} stroke={ink.ink} />
          </svg>
          <Typography variant="body2">
            {withUnit(l.gain, l.quantity, units, { doubt: l.doubt, signed: true })}
            {l.sooner_minutes !== null && Math.abs(l.sooner_minutes) >= 1 && `, ${minutesWords(Math.abs(l.sooner_minutes))} ${l.sooner_minutes > 0 ? "sooner" : "later"}`}
            {l.reaches === "now" && ", reaches the target"}{l.reaches === "lost" && ", misses the target"}
            {!l.real && "; too small to tell"}
            {l.price > 0 ? `; about ${withUnit(l.price, "price", units)} new` : "; free"}, {workWords(l.hours)}
            {l.choice && "; another wish, no gain"}
            <Unsafe text={l.unsafe} />
          </Typography>
          <Button aria-label={`Try it: ${say(l.title, units)}`} onClick={() => state.save({ spec: l.spec, load: l.load }, say(l.title, units))}>Try it</Button>
        </Box>
      ))}
      <Typography variant="body2" className="ink-soft mt-0_5">“Try it” makes it a revision; undo (u) takes it back. Prices are those of the shelf, new; what you have costs nothing.</Typography>
    </Box>
  );
}

type Change = Weakest["lines"][number];

/** What speaks against a change, after what it gains. */
function Unsafe({ text }: { text: Change["unsafe"] }) {
  const { units } = usePrefs();
  const words = say(text, units);
  return words ? <b className="ink-stop">; {words}</b> : null;
}

/** The rank of a line, said once for all that share it. */
function rankWords(line: Change, before: Change | undefined): string {
  return line.rank !== null && line.rank !== before?.rank ? `${line.rank}. ` : "";
}

function workWords(hours: number): string {
  return hours < 0.3 ? "no work" : hours < 1 ? "half an hour of work" : `${hours} h of work`;
}

/** Questions with one answer each: a number, from when, what it gains. */
function Straight({ found, stale, state }: { found: DirectAnswers; stale: boolean; state: BuildState }) {
  const { units } = usePrefs();
  return (
    <Box component="section" aria-label="straight answers" sx={{ mt: 3, opacity: stale ? 0.6 : 1 }}>
      <Typography variant="h2">Asked straight out, for this day</Typography>
      {found.answers.map((a) => (
        <Box key={a.name} className="saying-row border-top-1-rule">
          <Typography>{say(a.question, units)}</Typography>
          <Typography className="weight-700">{a.value === null || a.quantity === "plain" ? "" : withUnit(a.value, a.quantity as Quantity, units)}</Typography>
          <Box>
            <Typography variant="body2">{say(a.words, units)}</Typography>
            {a.spec && <Button variant="text" aria-label={`Try it: ${say(a.question, units)}`} onClick={() => state.save({ spec: a.spec!, load: a.load }, say(a.words, units).split(":")[0]!)}>Try it</Button>}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function Schools({ answers, stale }: { answers: SchoolAnswer[]; stale: boolean }) {
  const { units } = usePrefs();
  const gain = useGain();
  if (answers.length === 0) return null;
  return (
    <Box component="section" aria-label="schools" sx={{ mt: 3, opacity: stale ? 0.6 : 1 }}>
      <Typography variant="h2">Schools side by side, on this build and day</Typography>
      <Box className="grid columns-repeat-auto-fill-minmax-310px-1fr gap-2 mt-1">
        {answers.map((school) => (
          <Box key={school.name} className="border-top-2-ink pt-0_5">
            <Typography variant="h3">{say(school.question, units)}</Typography>
            <Typography variant="body2" className="weight-650">{say(school.words, units)}</Typography>
            <Box component="ul" className="m-0 pl-2_25 size-14">
              {school.lines.map((l) => (
                <li key={say(l.title, units)}>{l.is_mine ? <b>{say(l.title, units)} (yours)</b> : say(l.title, units)}: {l.behind < 0.005 ? "ahead" : `${gain(l.behind, school.quantity)} behind`}{l.peak_c !== null && `, peak ${withUnit(l.peak_c, "temperature", units)}`}{l.minutes !== null && `, ${minutesWords(l.minutes)}`}<Unsafe text={l.unsafe} /></li>
              ))}
            </Box>
            {school.counts && <Typography variant="body2" className="ink-soft">Counted: {say(school.counts, units)}.</Typography>}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function Sayings({ lines, stale }: { lines: SayingLine[]; stale: boolean }) {
  const { units } = usePrefs();
  return (
    <Box component="section" aria-label="sayings" sx={{ mt: 3, opacity: stale ? 0.6 : 1 }}>
      <Typography variant="h2">Sayings, put to the twin</Typography>
      {lines.map((l) => (
        <Box key={l.name} className="saying-row border-top-1-rule">
          <Typography>“{say(l.saying, units)}”</Typography>
          <Typography className="weight-700">{named(l.ruling)}</Typography>
          <Typography variant="body2">{say(l.words, units)}</Typography>
        </Box>
      ))}
    </Box>
  );
}
