import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { answered, ApiProblem, asProblem, client, type TrialView } from "../api/client";
import type { components } from "../api/schema";
import { Watched } from "./watched";

/**
 * What was typed, noted and photographed waits on the device, stamped, and is sent in the order in which it was made until the
 * server has acknowledged it. Sending a thing twice does no harm: the server knows a reading by its channel and time, an
 * event and a photo by their own marks.
 */
export type NewReading = components["schemas"]["NewReading"];
export type NewEvent = components["schemas"]["NewEvent"];
export type BatchAnswer = components["schemas"]["BatchAnswer"];

type Thing = { kind: "reading"; reading: NewReading } | { kind: "event"; event: NewEvent } | { kind: "photo"; photo: Blob; time: string; note: string; uid: string };
export type Kept = Thing & { n: number; trial: number };
export type Told =
  | { what: "readings"; trial: number; answer: BatchAnswer; sent: { words: string; channel: string; time: string }[] }
  | { what: "event"; trial: number; event: NewEvent; id: number | undefined }
  | { what: "photo"; trial: number; view: TrialView }
  | { what: "refused"; trial: number; words: string; why: string };

export interface Waiting {
  all: number;
  readings: number;
  events: number;
  photos: number;
  /** Why nothing goes out, where that is not the network. */
  stopped: string | null;
  byTrial: Record<number, number>;
}

interface Box extends DBSchema {
  things: { key: number; value: Omit<Kept, "n"> & { n?: number } };
}

const NOTHING: Waiting = { all: 0, readings: 0, events: 0, photos: 0, stopped: null, byTrial: {} };
const AGAIN_MS = 5000;
const MOST_AT_ONCE = 200;
const LOCK = "drylamp-outbox";

class Outbox {
  private db: Promise<IDBPDatabase<Box>> | null = null;
  /** Where the browser keeps nothing for a page, it is kept as long as the page is open. */
  private loose: Kept[] = [];
  private next = 1;
  private seen: Waiting = NOTHING;
  private changes = new Watched();
  private arrivals = new Watched<[Told]>();
  private sending = false;
  private stopped: string | null = null;

  readonly watch = this.changes.watch;
  readonly waiting = () => this.seen;
  readonly listen = this.arrivals.watch;

  /** Look at what is left from before, and go on sending. */
  start(): void {
    void this.count().then(() => this.flush());
    window.addEventListener("online", () => void this.flush());
    document.addEventListener("visibilitychange", () => document.visibilityState === "visible" && void this.flush());
    setInterval(() => this.seen.all > 0 && void this.flush(), AGAIN_MS);
  }

  async put(trial: number, thing: Thing): Promise<void> {
    const store = await this.store();
    if (store) await store.add("things", { ...thing, trial });
    else this.loose.push({ ...thing, trial, n: this.next++ });
    await this.count();
    void this.flush();
  }

  private async store(): Promise<IDBPDatabase<Box> | null> {
    this.db ??= openDB<Box>("drylamp-outbox", 1, { upgrade: (db) => void db.createObjectStore("things", { keyPath: "n", autoIncrement: true }) });
    try {
      return await this.db;
    } catch {
      return null;
    }
  }

  private async list(): Promise<Kept[]> {
    const store = await this.store();
    return store ? ((await store.getAll("things", null, MOST_AT_ONCE)) as Kept[]) : [...this.loose];
  }

  private async drop(gone: Kept[]): Promise<void> {
    const store = await this.store();
    if (store) await Promise.all(gone.map((k) => store.delete("things", k.n)));
    else this.loose = this.loose.filter((k) => !gone.includes(k));
    await this.count();
  }

  private async count(): Promise<void> {
    const all = await this.list();
    const of = (kind: Thing["kind"]) => all.filter((k) => k.kind === kind).length;
    const byTrial: Record<number, number> = {};
    for (const k of all) byTrial[k.trial] = (byTrial[k.trial] ?? 0) + 1;
    this.seen = { all: all.length, readings: of("reading"), events: of("event"), photos: of("photo"), stopped: this.stopped, byTrial };
    this.changes.tell();
  }

  /** Send what waits, one page of this browser at a time. */
  async flush(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    try {
      if ("locks" in navigator) await navigator.locks.request(LOCK, { ifAvailable: true }, async (lock) => { if (lock) await this.sendAll(); });
      else await this.sendAll();
    } finally {
      this.sending = false;
    }
  }

  private async sendAll(): Promise<void> {
    for (let rest = await this.list(); rest.length > 0; rest = await this.list()) {
      if (!(await this.sendFirst(rest))) return;
    }
  }

  /** The first that waits, with the readings of its trial that follow it at once; whether the line is free for more. */
  private async sendFirst(rest: Kept[]): Promise<boolean> {
    const first = rest[0]!;
    const end = rest.findIndex((k) => k.kind !== "reading" || k.trial !== first.trial);
    const together = first.kind === "reading" ? rest.slice(0, end === -1 ? rest.length : end) : [first];
    const found = await this.trySend(together);
    if (found === "kept") return true;
    if (found === "waits") return false;
    if (together.length === 1) return this.refuse(first, found);
    // Something of many is refused: one by one, so that only that is left out.
    for (const one of together) {
      const alone = await this.trySend([one]);
      if (alone === "waits") return false;
      if (alone !== "kept") await this.refuse(one, alone);
    }
    return true;
  }

  private async trySend(things: Kept[]): Promise<"kept" | "waits" | ApiProblem> {
    try {
      const told = await send(things);
      this.stopped = null;
      await this.drop(things);
      this.arrivals.tell(told);
      return "kept";
    } catch (error) {
      const problem = asProblem(error);
      const mended = problem.status === 0 || problem.status >= 500 || problem.status === 429;
      this.stopped = problem.status === 401 || problem.status === 403 ? problem.message : null;
      await this.count();
      return mended || this.stopped !== null ? "waits" : problem;
    }
  }

  private async refuse(thing: Kept, problem: ApiProblem): Promise<boolean> {
    await this.drop([thing]);
    this.arrivals.tell({ what: "refused", trial: thing.trial, words: wordsOf(thing), why: problem.message });
    return true;
  }
}

function wordsOf(thing: Kept): string {
  if (thing.kind === "reading") return `${thing.reading.typed || String(thing.reading.value)} of ${thing.reading.channel}`;
  return thing.kind === "event" ? `${thing.event.kind}${thing.event.note ? ` “${thing.event.note}”` : ""}` : `a photo${thing.note ? ` “${thing.note}”` : ""}`;
}

async function send(things: Kept[]): Promise<Told> {
  const first = things[0]!;
  const path = { path: { id: first.trial } };
  if (first.kind === "reading") {
    const readings = things.flatMap((k) => (k.kind === "reading" ? [k.reading] : []));
    const sent = things.flatMap((k) => (k.kind === "reading" && k.reading.time ? [{ words: wordsOf(k), channel: k.reading.channel, time: k.reading.time }] : []));
    return { what: "readings", trial: first.trial, sent, answer: await answered(client.POST("/api/trials/{id}/readings", { params: path, body: { source: "hand", readings } })) };
  }
  if (first.kind === "event") {
    const view = await answered(client.POST("/api/trials/{id}/events", { params: path, body: first.event }));
    return { what: "event", trial: first.trial, event: first.event, id: view.events.filter((e) => e.kind === first.event.kind).at(-1)?.id };
  }
  const asked = new URLSearchParams({ note: first.note, time: first.time, uid: first.uid });
  const view = await posted<TrialView>(`/api/trials/${first.trial}/photos?${asked.toString()}`, first.photo);
  return { what: "photo", trial: first.trial, view };
}

/** Post bytes as they are. */
export async function posted<T>(path: string, content: Blob): Promise<T> {
  let response;
  try {
    response = await fetch(path, { method: "POST", body: content, headers: { "Content-Type": "application/octet-stream" } });
  } catch {
    throw new ApiProblem(0, "The server does not answer.", []);
  }
  const body = (await response.json().catch(() => ({}))) as { detail?: string };
  if (!response.ok) throw new ApiProblem(response.status, body.detail ?? `The server answered ${response.status}.`, []);
  return body as T;
}

export const outbox = new Outbox();

/** A mark that nothing else carries; not every page may use the browser's own. */
export function mark(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}
