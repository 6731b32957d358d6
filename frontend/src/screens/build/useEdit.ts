import { answered, client } from "../../api/client";
import type { Edit } from "../../parts/SpecForm";
import { setAt } from "../../parts/setAt";
import type { BuildState } from "./useBuild";

/** Changes of a build or of what is in it: a plain field is set here, whatever has consequences is asked of the core. */
export function useEdit(state: BuildState, of: "spec" | "load"): Edit {
  const ask = (path: string, how: "set" | "add" | "remove", note: string, value?: unknown) =>
    state.ask(async ({ spec, load }) => {
      const made = await answered(client.POST("/api/kinds/change", { body: { spec, load, of, path, how, value: value as never } }));
      return { [of]: made[of] };
    }, note);
  return {
    set: (path, value, note, settles) => {
      if (settles) ask(path, "set", note, value);
      else state.save((draft) => ({ [of]: setAt(draft[of], path, value) }), note);
    },
    add: (path, note) => ask(path, "add", note),
    remove: (path, note) => ask(path, "remove", note),
    about: (path) => state.problem?.about(path),
  };
}
