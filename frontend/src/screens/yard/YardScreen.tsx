import { Box, Link as MuiLink, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { StandingLine, Yard } from "../../api/client";
import { useHeavy } from "../../api/heavy";
import { standingQuery, yardQuery } from "../../api/queries";
import { useKindOf } from "../../kinds";
import { useDay } from "../../look/day";
import { capital } from "../../look/words";
import { useLater } from "../../parts/Later";
import { Problem, Waiting } from "../../parts/Problem";
import { Lane } from "./Lane";
import { NextThings } from "./NextThings";
import { Today } from "./Today";

/** The yard: the next things to do, then a lane for each build on the strip's own hours, by what it makes. */
export default function YardScreen() {
  const { siteId, day, domain } = useDay();
  const { data: answer, error, isPlaceholderData, refetch } = useQuery(yardQuery(siteId, day));
  const data = useLater(answer);
  const over = (data?.lines ?? []).filter((l) => l.over_days);
  const standing = useHeavy(standingQuery(siteId, day, JSON.stringify(over.map((l) => [l.build.id, l.build.revision, l.build.calibration?.id ?? 0]))), over.length > 0).data;
  if (error) return <Problem error={error} retry={() => void refetch()} />;
  if (!data || !domain) return <Waiting what="Asking the twins" />;
  return (
    <Box className={isPlaceholderData ? "stale" : undefined}>
      <Typography variant="h1" className="unseen">What the yard can do today</Typography>
      {data.lines.length === 0 && (
        <Typography className="px-2 py-2">
          No build stands here yet. <MuiLink component={Link} to={`/sites/${siteId}/new`}>Make the first one</MuiLink>.
        </Typography>
      )}
      {data.lines.length > 0 && <NextThings yard={data} />}
      <Lanes yard={data} standing={standing?.lines ?? []} />
      {data.lines.length > 0 && (
        <Box className="px-2 py-1_5">
          <Today key={`${siteId} ${day}`} />
          <Typography variant="body2" className="mt-2">On a phone: <MuiLink href={`/api/sites/${siteId}/plan.ics?days=7`} download>the week's plans as a calendar</MuiLink>; a calendar program may also subscribe to that address.</Typography>
        </Box>
      )}
    </Box>
  );
}

/** A ribbon is full at this at least: a cold day looks like one. */
const TEPID_C = 40;

/** Lanes in groups of what is made in them, in the order in which the yard has them. */
function Lanes({ yard, standing }: { yard: Yard; standing: StandingLine[] }) {
  const kindOf = useKindOf();
  const makes = (line: Yard["lines"][number]) => kindOf(line.build.spec).wish;
  return [...new Set(yard.lines.map(makes))].map((wish) => {
    const lines = yard.lines.filter((line) => makes(line) === wish);
    const hot = Math.max(TEPID_C, ...lines.flatMap((line) => line.outcome?.temperature_c ?? []).map((c) => c ?? 0));
    return (
      <Box component="section" key={wish} aria-label={capital(wish)}>
        <Typography variant="h2" className="lane-group">{capital(wish)}</Typography>
        {lines.map((line) => <Lane key={line.build.id} line={line} hot={hot} stands={standing.find((s) => s.build_id === line.build.id)} />)}
      </Box>
    );
  });
}
