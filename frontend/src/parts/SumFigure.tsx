import { Box, useTheme } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { curveMonotoneX, line } from "d3-shape";
import { answered, client, type SumCurve, type SumView } from "../api/client";
import { dateWords } from "../look/clock";
import { usePrefs } from "../look/prefs";
import { useWidth } from "./useWidth";
import { namedIn, told } from "./sumWords";

/** How a sum goes: its answer over one of its inputs, small beside its title, larger with what somebody typed. */
interface Frame {
  width: number;
  height: number;
}

/** The curve in a frame, broken where there is no answer; from nothing up, where nothing lies below it. */
function pathOf(answers: (number | null)[], { width, height }: Frame): { path: string; y: (value: number) => number; least: number; high: number } {
  const known = answers.filter((a) => a !== null);
  const [least, high] = [Math.min(...known), Math.max(...known)];
  const low = least > 0 && least < high / 3 ? 0 : least;
  const y = (value: number) => height - ((value - low) / (high - low || 1)) * height;
  const x = (i: number) => (i / (answers.length - 1)) * width;
  const path = line<number | null>().defined((a) => a !== null).x((_, i) => x(i)).y((a) => y(a!)).curve(curveMonotoneX)(answers) ?? "";
  return { path, y, least, high };
}

const SMALL = { width: 44, height: 22 };

export function SmallFigure({ sum }: { sum: SumView }) {
  const { ink } = useTheme();
  return (
    <svg width={SMALL.width + 6} height={SMALL.height + 6} viewBox={`-3 -3 ${SMALL.width + 6} ${SMALL.height + 6}`} aria-hidden="true" style={{ flex: "none" }}>
      <path d={`M0 0V${SMALL.height}H${SMALL.width}`} fill="none" stroke={ink.soft} />
      <path d={pathOf(sum.figure.answers, SMALL).path} fill="none" stroke={ink.ink} strokeWidth={2} strokeLinejoin="round" />
    </svg>
  );
}

const TALL = 96;

/** The same with its words; it follows what is typed, and marks it where it stands. */
export function SumFigure({ sum, typed }: { sum: SumView; typed: Record<string, unknown> }) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const [ref, width] = useWidth();
  const own = useQuery({
    queryKey: ["sum-curve", sum.name, typed],
    queryFn: () => answered(client.POST("/api/sums/{name}/curve", { params: { path: { name: sum.name } }, body: typed })),
    enabled: Object.keys(typed).length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const figure: SumCurve = own.data ?? sum.figure;
  const { path, y, least, high } = pathOf(figure.answers, { width, height: TALL });
  const end = (value: number | string) => (typeof value === "number" ? told(figure.over, value, sum, units) : whenWords(value));
  const mark = figure.here === null ? null : answerAt(figure, figure.here);
  const [shows, over] = [figure.shows, figure.over].map((name) => namedIn(name, sum).words);
  const given = Object.entries(figure.given).map(([name, value]) => `${namedIn(name, sum).words} ${told(name, value, sum, units)}`);
  const says = `${shows}: ${told(figure.shows, least, sum, units)} – ${told(figure.shows, high, sum, units)}`;
  return (
    <Box component="figure" className="m-0 my-1">
      <Box ref={ref}>
        <svg width="100%" height={TALL + 8} viewBox={`0 -4 ${width || 1} ${TALL + 8}`} role="img" aria-label={says} style={{ display: "block", overflow: "visible" }}>
          <path d={`M0 0V${TALL}H${width}`} fill="none" stroke={ink.soft} />
          <path d={path} fill="none" stroke={ink.ink} strokeWidth={2} strokeLinejoin="round" />
          {mark !== null && <circle cx={figure.here! * width} cy={y(mark)} r={5} fill={ink.paper} stroke={ink.ink} strokeWidth={2} />}
        </svg>
      </Box>
      <Box className="flex between size-13 ink-soft"><span>{end(figure.at[0]!)}</span><span>{over}</span><span>{end(figure.at.at(-1)!)}</span></Box>
      <Box component="figcaption" className="size-13 ink-soft">{says}{given.length > 0 && `; ${given.join(", ")}`}</Box>
    </Box>
  );
}

/** A day, or the hour of a moment, as it is told. */
const whenWords = (text: string) => (text.includes("T") ? text.slice(11, 16) : dateWords(`${text}T12:00:00Z`, "UTC"));

/** The answer between two points of the curve. */
function answerAt({ answers }: SumCurve, share: number): number | null {
  const i = Math.min(Math.floor(share * (answers.length - 1)), answers.length - 2);
  const [before, after] = [answers[i]!, answers[i + 1]!];
  return before === null || after === null ? null : before + (share * (answers.length - 1) - i) * (after - before);
}
