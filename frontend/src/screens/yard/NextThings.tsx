import { Box, Button, Link as MuiLink, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link, useLocation } from "react-router";
import { answered, asProblem, client, type Tick, type Yard } from "../../api/client";
import { KindGlyph } from "../../kinds";
import { clockTime } from "../../look/clock";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { say } from "../../look/units";

/** The next five things to do, before all that is only to be known: a tap leads to it, another ticks it. */
export function NextThings({ yard }: { yard: Yard }) {
  const { siteId, site } = useDay();
  const { units } = usePrefs();
  const { search } = useLocation();
  const tick = useTick(siteId);
  const specOf = (id: number) => yard.lines.find((l) => l.build.id === id)?.build.spec;
  return (
    <Box component="section" aria-label="next things to do" className="px-2 pt-1">
      {yard.next_things.length === 0 && <Typography>Nothing more to do today.</Typography>}
      <Box component="ol" className="next-things">
        {yard.next_things.map((thing) => {
          const words = say(thing.text, units);
          const spec = specOf(thing.build_id);
          return (
            <Box component="li" key={`${thing.time}${words}`}>
              <Box className="flex gap-0_75 items-center"><b className="size-17">{clockTime(thing.time, site.time_zone)}</b>{spec && <KindGlyph spec={spec} />}
                {thing.tick && <Button disabled={tick.isPending} aria-label={`Done: ${words}`} onClick={() => tick.mutate({ build: thing.build_id, tick: thing.tick! })}>Done</Button>}
              </Box>
              <MuiLink component={Link} to={thing.trial_id ? `/trials/${thing.trial_id}` : `/builds/${thing.build_id}/forecast${search}`} title={words}>{words}</MuiLink>
              {!thing.somebody_there && <span className="size-12_5 ink-soft as-block">nobody is there then; see “When nobody is there” on its forecast</span>}
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}

/** Mark a step of a plan as done: it leaves the list, and stands in the build's book and in its running trials. */
function useTick(siteId: number) {
  const cache = useQueryClient();
  const notices = useNotices();
  return useMutation({
    mutationFn: ({ build, tick }: { build: number; tick: Tick }) => answered(client.POST("/api/sites/{id}/yard/{part_id}/tick", { params: { path: { id: siteId, part_id: build } }, body: tick })),
    onSuccess: (done) => {
      for (const key of ["yard", "sheets", "trial"]) void cache.invalidateQueries({ queryKey: [key] });
      notices.say(done.trial_ids.length > 0 ? "Done; it stands in the running trial too." : "Done.");
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
}
