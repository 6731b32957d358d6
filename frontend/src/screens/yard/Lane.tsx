import { Box, Link as MuiLink, useTheme } from "@mui/material";
import { area, line as curve } from "d3-shape";
import { useMemo, useState, type KeyboardEvent } from "react";
import { Link, useLocation } from "react-router";
import type { StandingLine, Yard } from "../../api/client";
import { KindGlyph, useAccent } from "../../kinds";
import { clockTime, weekday } from "../../look/clock";
import { useDay, useLamp } from "../../look/day";
import { textWidth, useFonts } from "../../look/measure";
import { usePrefs } from "../../look/prefs";
import { BODY } from "../../look/theme";
import { say } from "../../look/units";
import { outcomeWords } from "../../look/words";
import { GUTTER, timeScale } from "../../parts/timeScale";
import { useWidth } from "../../parts/useWidth";
import { layMarks, type Mark } from "./marks";

/** A build's day in one lane under the strip's own hours: its curve a quiet ribbon, what is to be done as marks whose words never collide. */
const RIBBON = 15;
const FOOT = 14;
const WORDS_PX = 11.5;

export function Lane({ line, stands, hot }: { line: Yard["lines"][number]; stands: StandingLine | undefined; /** What fills a ribbon of its group, °C. */ hot: number }) {
  const { site, domain } = useDay();
  const { lamp } = useLamp();
  const { units } = usePrefs();
  const { ink } = useTheme();
  const { search } = useLocation();
  const accent = useAccent(line.build.spec);
  const [ref, width] = useWidth("hours");
  const [shown, setShown] = useState<number | null>(null);
  const wide = width || 800;
  const x = useMemo(() => timeScale(domain!, wide), [domain, wide]);
  const fonts = useFonts();
  const marks = useMemo(() => {
    const steps = line.plan
      .map((s) => ({ at: Date.parse(s.time), time: clockTime(s.time, site.time_zone), text: say(s.text, units) }))
      .filter((s) => s.at >= domain![0] && s.at <= domain![1]);
    return layMarks(steps, (at) => x(at), [GUTTER.left, wide - 4], (words) => textWidth(words, WORDS_PX, BODY));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- letters that come later are wider or narrower
  }, [line.plan, site.time_zone, units, domain, x, wide, fonts]);
  const { outcome } = line;
  const points = useMemo(() => {
    const begun = outcome ? Date.parse(outcome.start) : 0;
    return (outcome?.temperature_c ?? []).map((c, i) => ({ c, at: begun + i * outcome!.step_s * 1000 })).filter((p) => p.c !== null && p.at >= domain![0] && p.at <= domain![1]);
  }, [outcome, domain]);
  const y = (c: number) => RIBBON - (Math.min(Math.max(c, 0), hot) / hot) * (RIBBON - 1);
  const running = stands?.standing ?? null;
  const trouble = [line.problem, stands?.problem ?? []].find((words) => words.length > 0);
  const headline = trouble && !running
    ? say(trouble, units)
    : (outcome && outcomeWords(outcome, units, site.time_zone)) ?? (running ? say(running.said, units) : line.over_days ? "its days are being run" : "no sun today");
  const said = shown !== null && marks[shown] ? marks[shown].steps.map((s) => `${s.time} ${s.text}`).join(" · ") : headline;
  return (
    <Box component="article" className="lane" aria-label={line.build.name}>
      <Box className="lane-words">
        <KindGlyph spec={line.build.spec} />
        <MuiLink component={Link} to={`/builds/${line.build.id}/forecast${search}`} className="lane-name">{line.build.name}</MuiLink>
        {shown === null ? <Clauses said={said} /> : <span className="lane-shown one-line" title={said}>{said}</span>}
        {running && <Days standing={running} />}
        {line.running.map((id) => <MuiLink key={id} component={Link} to={`/trials/${id}`} className="weight-700 one-line size-13">trial running</MuiLink>)}
      </Box>
      <Box ref={ref} className="position-relative">
        <svg width="100%" height={RIBBON + FOOT} aria-hidden="true" className="as-block">
          <path d={area<(typeof points)[number]>().x((p) => x(p.at)).y0(RIBBON).y1((p) => y(p.c!))(points) ?? ""} fill={accent} opacity={0.2} />
          <path d={curve<(typeof points)[number]>().x((p) => x(p.at)).y((p) => y(p.c!))(points) ?? ""} fill="none" stroke={accent} strokeWidth={1.4} />
          <line x1={GUTTER.left} x2={wide - GUTTER.right} y1={RIBBON} y2={RIBBON} stroke={ink.ink} />
          <line x1={x(lamp)} x2={x(lamp)} y1={0} y2={RIBBON} stroke={ink.sun} strokeWidth={2} />
          {marks.map((m, i) => (
            <g key={m.x}>
              <path d={`M${m.x} ${RIBBON - 5}l5 5l-5 5l-5 -5z`} fill={shown === i ? ink.ink : ink.paper} stroke={ink.ink} strokeWidth={1.4} />
              {m.label && <text x={m.labelX} y={RIBBON + 11} fontSize={WORDS_PX} fontFamily={BODY} textAnchor={m.anchor} fill={ink.ink}>{m.label}</text>}
            </g>
          ))}
        </svg>
        <MarkKeys marks={marks} of={line.build.name} shown={shown} onShow={setShown} />
      </Box>
    </Box>
  );
}

/** What a finger, a pointer or the arrow keys take hold of; one stop for Tab in each lane. */
function MarkKeys({ marks, of, shown, onShow }: { marks: Mark[]; of: string; shown: number | null; onShow: (i: number | null) => void }) {
  const [held, setHeld] = useState(0);
  if (marks.length === 0) return null;
  const onKey = (event: KeyboardEvent<HTMLElement>) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const next = Math.min(Math.max(held + by, 0), marks.length - 1);
    setHeld(next);
    (event.currentTarget.children[next] as HTMLElement).focus();
  };
  return (
    <Box role="group" aria-label={`what to do with ${of}`} onKeyDown={onKey} onMouseLeave={() => onShow(null)}>
      {marks.map((m, i) => (
        <button
          key={m.x} type="button" className="mark-key" tabIndex={i === Math.min(held, marks.length - 1) ? 0 : -1} style={{ left: m.x - 12 }} aria-pressed={shown === i}
          aria-label={m.steps.map((s) => `${s.time} ${s.text}`).join(" · ")} onMouseEnter={() => onShow(i)} onFocus={() => { setHeld(i); onShow(i); }} onBlur={() => onShow(null)} onClick={() => onShow(i)}
        />
      ))}
    </Box>
  );
}

/** As many whole clauses of a saying as there is room for; only the first may be cut. */
function Clauses({ said }: { said: string }) {
  return <span className="lane-said" title={said}>{said.split(/(?=[,;] )|(?<=\.)(?= )/).map((clause, i) => <span key={`${i} ${clause}`}>{clause}</span>)}</span>;
}

/** Where what stays over days stands at the end of each. */
function Days({ standing }: { standing: NonNullable<StandingLine["standing"]> }) {
  const { units } = usePrefs();
  const first = standing.days.findIndex((d) => d.done);
  const told = first === -1 ? standing.days.length - 1 : first;
  return (
    <span className="lane-days" title={say(standing.said, units)}>
      {standing.days.map((d, i) => <span key={d.day} className={i === told ? "lane-last" : undefined}><i>{weekday(d.day)}</i> {d.done ? <b>{say(d.words, units)} ✓</b> : say(d.words, units)}</span>)}
    </span>
  );
}
