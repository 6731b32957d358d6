import { Box, Button } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answered, asProblem, client, type BuildView } from "../../api/client";
import { buildQuery, buildsQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { undoBuild } from "../build/useBuild";

/** Where a variant stands beside the build that it branched off: a way to take it over. */
export function TakeOver({ names }: { names: string[] }) {
  const { siteId } = useDay();
  const builds = useQuery(buildsQuery(siteId)).data ?? [];
  const shown = builds.filter((b) => names.includes(`b${b.id}`));
  const pairs = shown.flatMap((variant) => shown.filter((b) => b.id === variant.variant_of).map((base) => ({ base, variant })));
  if (pairs.length === 0) return null;
  return <Box className="flex wrap gap-1 mt-2">{pairs.map(({ base, variant }) => <TakeOverButton key={variant.id} base={base} variant={variant} />)}</Box>;
}

/** What both changed since is asked about before anything is written. */
export function TakeOverButton({ base, variant, onDone }: { base: BuildView; variant: BuildView; onDone?: () => void }) {
  const cache = useQueryClient();
  const notices = useNotices();
  const navigate = useNavigate();
  const take = useMutation({
    mutationFn: (anyway: boolean) => answered(client.POST("/api/builds/{id}/take-over", { params: { path: { id: base.id }, header: { "If-Match": `"r${base.revision}"` } }, body: { variant: variant.id, anyway } })),
    onSuccess: () => {
      void cache.invalidateQueries({ queryKey: ["builds"] });
      onDone?.();
      void navigate(`/builds/${base.id}/make`);
      notices.done(`${base.name} is like ${variant.name} now, which is put away; Undo (u) brings it back.`, () => void cache.fetchQuery({ ...buildQuery(base.id), staleTime: 0 }).then(undoBuild).then(() => cache.invalidateQueries(), (error: unknown) => notices.warn(asProblem(error).message)));
    },
    onError: (error) => {
      const problem = asProblem(error);
      if (problem.about("anyway")) notices.warn(problem.message, { label: "Take the variant's", run: () => take.mutate(true) });
      else notices.warn(problem.message);
    },
  });
  return <Button variant="contained" disabled={take.isPending} onClick={() => take.mutate(false)}>Take {variant.name} over into {base.name}</Button>;
}
