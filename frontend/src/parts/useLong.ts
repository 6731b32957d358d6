import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { answered, client, type JobView } from "../api/client";

/** A long answer: begun when somebody asks, looked at while it runs, and stopped by whoever no longer wants it. */
const ENDED = ["done", "stopped", "refused", "failed"];
const EVERY_MS = 400;

export interface Long {
  job: JobView | undefined;
  error: Error | null;
  running: boolean;
  stop: () => void;
}

/** `begin` asks the question that `key` names; the same question again finds its answer. */
export function useLong(key: unknown[], begin: () => Promise<JobView>): Long {
  const cache = useQueryClient();
  const asked = useQuery({ queryKey: ["long", ...key], queryFn: begin, staleTime: Infinity, retry: false });
  const name = asked.data?.key;
  const seen = useQuery({
    queryKey: ["job", name],
    queryFn: () => answered(client.GET("/api/jobs/{key}", { params: { path: { key: name! } } })),
    enabled: name !== undefined && !ENDED.includes(asked.data!.state),
    refetchInterval: (query) => (query.state.data && ENDED.includes(query.state.data.state) ? false : EVERY_MS),
  });
  const job = seen.data ?? asked.data;
  const ended = job !== undefined && ENDED.includes(job.state);
  // What ended is kept with its question; a stopped one is asked anew by the next who asks.
  useEffect(() => {
    if (job?.state === "done") cache.setQueryData(["long", ...key], job);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [job?.state, job?.key]);
  const halt = useMutation({
    mutationFn: () => answered(client.POST("/api/jobs/{key}/stop", { params: { path: { key: name! } } })),
    onSuccess: (next) => cache.setQueryData(["job", name], next),
  });
  return { job, error: asked.error ?? seen.error, running: job !== undefined && !ended, stop: () => halt.mutate() };
}
