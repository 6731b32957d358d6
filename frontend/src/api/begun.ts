import type { Middleware } from "openapi-fetch";
import { ANSWERS, FRESH } from "./answers";

/** Answers that stand in the page itself, each given once, to whoever asks for it first. */
const stood = new Map([...document.querySelectorAll<HTMLScriptElement>("script[data-answers]")].map((script) => [script.dataset.answers!, script.textContent]));
const given = new Set<string>();
/** Whoever asks later than this wants to know how it is by then. */
const FRESH_MS = 5000;

const asAnswer = (text: string) => new Response(text, { headers: { "Content-Type": "application/json" } });

export const begun: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET" || performance.now() > FRESH_MS) return undefined;
    const { pathname, search } = new URL(request.url);
    const asked = pathname + search;
    const text = stood.get(asked);
    if (text === undefined || given.has(asked)) return undefined;
    given.add(asked);
    return asAnswer(text);
  },
};

/** Lay what stood in the page where the worker looks without the network: it never passed by there. */
export async function keepBegun(): Promise<void> {
  if (!("caches" in globalThis)) return;
  const kept = await caches.open(ANSWERS);
  await Promise.all([...stood].filter(([asked]) => !FRESH.test(asked)).map(([asked, text]) => kept.put(asked, asAnswer(text))));
}
