import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answered, asProblem, client } from "../api/client";
import { useNotices } from "../look/notices";

/** Which reading: by its channel and time. */
interface ReadingKey {
  channel: string;
  time: string;
}

/** How a reading is taken back: in which words, and whether that is itself an undoing, which the notice alone brings back. */
interface How {
  words?: string;
  undone?: boolean;
}

/** What can be taken back of any trial, and brought back again; ending one, and going on. */
export function useTrialBacks() {
  const cache = useQueryClient();
  const notices = useNotices();
  return useMemo(() => {
    const refresh = (trial: number) => {
      void cache.invalidateQueries({ queryKey: ["trial", trial] });
      for (const key of ["trials", "yard", "series", "verdict"]) void cache.invalidateQueries({ queryKey: [key] });
    };
    const failed = (error: unknown) => notices.warn(asProblem(error).message);
    const restore = (id: number, { channel, time }: ReadingKey) => answered(client.POST("/api/trials/{id}/readings/restore", { params: { path: { id } }, body: { channel, time } })).then(() => refresh(id), failed);
    const withdraw = (id: number, { channel, time }: ReadingKey, { words = "Reading taken back.", undone = false }: How = {}) =>
      answered(client.POST("/api/trials/{id}/readings/withdraw", { params: { path: { id } }, body: { channel, time } })).then(() => {
        refresh(id);
        const again = () => restore(id, { channel, time });
        if (!undone) notices.done(words, again);
        else notices.say(words, { label: "Bring it back", run: () => void again() });
      }, failed);
    const unnote = (id: number, part: number) =>
      answered(client.POST("/api/trials/{id}/events/{part_id}/withdraw", { params: { path: { id, part_id: part } } })).then(() => {
        refresh(id);
        notices.say("Event taken back.");
      }, failed);
    const finish = (id: number, ended: boolean): Promise<void> =>
      answered(client.POST("/api/trials/{id}/end", { params: { path: { id } }, body: { ended } })).then(() => {
        refresh(id);
        if (ended) notices.done("Trial ended.", () => finish(id, false));
      }, failed);
    return { refresh, withdraw, unnote, finish };
  }, [cache, notices]);
}

/** The same of one trial. */
export function useTrialChanges(trial: number) {
  const backs = useTrialBacks();
  return useMemo(
    () => ({
      refresh: () => backs.refresh(trial),
      withdraw: (key: ReadingKey, how?: How) => backs.withdraw(trial, key, how),
      unnote: (part: number) => backs.unnote(trial, part),
      finish: (ended: boolean) => backs.finish(trial, ended),
    }),
    [backs, trial],
  );
}
