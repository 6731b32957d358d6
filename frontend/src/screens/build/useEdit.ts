import { useMutation } from "@tanstack/react-query";
import { answered, asProblem, client } from "../../api/client";
import { useNotices } from "../../look/notices";
import type { Edit } from "../../parts/SpecForm";
import { setAt } from "../../parts/setAt";
import type { BuildState } from "./useBuild";

/** Changes of a build or of what is in it: a plain field is set here, whatever has consequences is asked of the core. */
export function useEdit(state: BuildState, of: "spec" | "load"): Edit {
  const notices = useNotices();
  const draft = state.draft!;
  const ask = useMutation({
    mutationFn: async ({ path, how, value, note }: { path: string; how: "set" | "add" | "remove"; value?: unknown; note: string }) => {
      const body = { spec: draft.spec, load: draft.load, of, path, how, value: value as never };
      return { made: await answered(client.POST("/api/kinds/change", { body })), note };
    },
    onSuccess: ({ made, note }) => state.save({ [of]: made[of] }, note),
    onError: (error) => notices.warn(asProblem(error).message),
  });
  return {
    set: (path, value, note, settles) => {
      if (settles) ask.mutate({ path, how: "set", value, note });
      else state.save({ [of]: setAt(draft[of], path, value) }, note);
    },
    add: (path, note) => ask.mutate({ path, how: "add", note }),
    remove: (path, note) => ask.mutate({ path, how: "remove", note }),
    about: (path) => state.problem?.about(path),
  };
}
