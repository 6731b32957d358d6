import { useQuery, useQueryClient, type QueryClient, type QueryFunctionContext, type UseQueryResult } from "@tanstack/react-query";
import { answered, ApiProblem, client, type JobView } from "./client";
import type { paths } from "./schema";

/** Heavy questions: begun at once, looked at while they are worked out, and stopped by whoever does not want to wait. */
type Posts = { [P in keyof paths]: paths[P] extends { post: { requestBody: { content: { "application/json": unknown } }; responses: { 200: { content: { "application/json": unknown } } } } } ? P : never }[keyof paths];
type Asks<P extends Posts> = paths[P] extends { post: { requestBody: { content: { "application/json": infer B } } } } ? B : never;
type Answers<P extends Posts> = paths[P] extends { post: { responses: { 200: { content: { "application/json": infer A } } } } } ? A : never;

const ENDED: JobView["state"][] = ["done", "stopped", "refused", "failed"];
const FIRST_LOOK_MS = 120;
const LATER_LOOK_MS = 400;
/** Names this page among those that ask: the newest question of one of its views takes the place of its older ones. */
const PAGE = Math.random().toString(36).slice(2, 10);

/** How a question stands while it is asked. */
export interface Progress {
  job: string | null;
  share: number;
  state: JobView["state"];
}

const progressKey = (key: readonly unknown[]) => ["progress", ...key];

/** A heavy question: where its answer is kept, and how it is asked. */
export interface Question<A> {
  queryKey: readonly unknown[];
  queryFn: (context: QueryFunctionContext) => Promise<A>;
}

export function heavyQuery<P extends Posts>(path: P, body: Asks<P>, key: readonly unknown[] = [path, body], id?: number): Question<Answers<P>> {
  const address = id === undefined ? path : path.replace("{id}", String(id));
  return { queryKey: key, queryFn: ({ signal, client: cache }) => ask<P>(address, body, key, cache, signal) };
}

async function ask<P extends Posts>(path: string, body: Asks<P>, key: readonly unknown[], cache: QueryClient, signal: AbortSignal): Promise<Answers<P>> {
  const tell = (progress: Progress) => cache.setQueryData(progressKey(key), progress);
  tell({ job: null, share: 0, state: "waiting" });
  let job = await answered(client.POST("/api/jobs", { body: { method: "POST", path, body: body as never, view: `${PAGE} ${path}` }, signal }));
  for (let wait = FIRST_LOOK_MS; !ENDED.includes(job.state); wait = LATER_LOOK_MS) {
    tell({ job: job.key, share: job.share, state: job.state });
    if (job.answer !== null && job.answer !== undefined) cache.setQueryData(key, job.answer);
    await sleep(wait, signal);
    job = await answered(client.GET("/api/jobs/{key}", { params: { path: { key: job.key } }, signal }));
  }
  tell({ job: job.key, share: job.share, state: job.state });
  if (job.state === "refused") throw new ApiProblem(422, job.why, []);
  if (job.answer !== null && job.answer !== undefined && job.state !== "failed") return job.answer as Answers<P>;
  throw new ApiProblem(job.state === "stopped" ? 409 : 500, job.why || "It was stopped before there was anything to show.", []);
}

function sleep(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      reject(new DOMException("no longer asked", "AbortError"));
    });
  });
}

/** An answer as a page holds it, with the question that it is of. */
export type Heavy<A = unknown> = UseQueryResult<A, Error> & { asked: readonly unknown[] };

/** Ask a heavy question, or hold back while it is not enabled. */
export function useHeavy<A>(question: Question<A>, enabled = true): Heavy<A> {
  const found = useQuery<A, Error>({ ...question, enabled, placeholderData: (before) => before, staleTime: Infinity, retry: false });
  return { ...found, asked: question.queryKey };
}

/** What is known of a heavy question by now; it is not asked for it. */
export function useKnown<A>(question: Question<A>): A | undefined {
  return useQuery<A, Error>({ ...question, enabled: false, staleTime: Infinity }).data;
}

/** How far the question of a key is; nothing before it is asked. */
export function useProgress(key: readonly unknown[]) {
  const cache = useQueryClient();
  const { data } = useQuery<Progress>({ queryKey: progressKey(key), enabled: false, staleTime: Infinity });
  const stop = () => {
    if (data?.job) void answered(client.POST("/api/jobs/{key}/stop", { params: { path: { key: data.job } } }));
  };
  const again = () => void cache.refetchQueries({ queryKey: key, exact: true });
  return { progress: data, stop, again };
}
