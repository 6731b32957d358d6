import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { answered, asProblem, client } from "../../api/client";
import { useNotices } from "../../look/notices";

/** What can be taken back of a trial, and brought back again; ending it, and going on. */
export function useTrialChanges(trialId: number) {
  const cache = useQueryClient();
  const notices = useNotices();
  const path = { path: { id: trialId } };
  const refresh = useCallback(() => {
    void cache.invalidateQueries({ queryKey: ["trial", trialId] });
    void cache.invalidateQueries({ queryKey: ["trials"] });
    void cache.invalidateQueries({ queryKey: ["yard"] });
  }, [cache, trialId]);
  const restore = useMutation({
    mutationFn: (key: { channel: string; time: string }) => answered(client.POST("/api/trials/{id}/readings/restore", { params: path, body: { channel: key.channel, time: key.time } })),
    onSuccess: refresh,
  });
  const withdraw = useMutation({
    mutationFn: (key: { channel: string; time: string }) => answered(client.POST("/api/trials/{id}/readings/withdraw", { params: path, body: { channel: key.channel, time: key.time } })),
    onSuccess: (_, key) => {
      refresh();
      notices.say("Reading taken back.", { label: "Bring it back", run: () => restore.mutate(key) });
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const unnote = useMutation({
    mutationFn: (part: number) => answered(client.POST("/api/trials/{id}/events/{part_id}/withdraw", { params: { path: { id: trialId, part_id: part } } })),
    onSuccess: () => {
      refresh();
      notices.say("Event taken back.");
    },
  });
  const finish = useMutation({
    mutationFn: (ended: boolean) => answered(client.POST("/api/trials/{id}/end", { params: path, body: { ended } })),
    onSuccess: (_, ended) => {
      refresh();
      if (ended) notices.say("Trial ended.", { label: "Go on after all", run: () => finish.mutate(false) });
    },
  });
  return { refresh, withdraw, unnote, finish };
}
