import { useCallback, useEffect, useRef, useState } from "react";
import { answered, asProblem, client, type EventKind } from "../../api/client";
import type { components } from "../../api/schema";
import { useServerClock } from "../../look/day";
import { useNotices } from "../../look/notices";
import { kept, keep } from "../../look/prefs";

type NewReading = components["schemas"]["NewReading"];
type NewEvent = components["schemas"]["NewEvent"];
type Answer = components["schemas"]["BatchAnswer"];
type Item = { reading: NewReading } | { event: NewEvent };

interface Handlers {
  onReadings: (answer: Answer) => void;
  onEvent: (event: NewEvent, id: number | undefined) => void;
}

/**
 * Readings and events made here are kept on the device, stamped, and sent until the server has acknowledged them. Sending one
 * twice does no harm: the server knows a reading by its channel and time, and an event by its own mark.
 */
export function useOutbox(trialId: number, handlers: Handlers) {
  const key = `drylamp.outbox.${trialId}`;
  const notices = useNotices();
  const serverClock = useServerClock();
  const [list, setList] = useState<Item[]>(() => kept<Item[]>(key, []).filter((i) => "reading" in i || "event" in i));
  const sending = useRef(false);
  const handler = useRef(handlers);
  useEffect(() => {
    handler.current = handlers;
  }, [handlers]);
  useEffect(() => keep(key, list), [key, list]);

  useEffect(() => {
    if (list.length === 0) return;
    const gone = (sent: Item[]) => setList((old) => old.filter((i) => !sent.includes(i)));
    const send = async (sent: Item[], post: () => Promise<void>) => {
      try {
        await post();
        gone(sent);
      } catch (error) {
        const problem = asProblem(error);
        // A refusal will not mend itself: say why, and stop sending it.
        if (problem.status >= 400 && problem.status < 500) {
          gone(sent);
          notices.warn(`Not kept: ${problem.message}`);
        }
      }
    };
    const flush = async () => {
      if (sending.current) return;
      sending.current = true;
      const path = { path: { id: trialId } };
      const readings = list.filter((i) => "reading" in i);
      if (readings.length > 0) {
        await send(readings, async () => {
          handler.current.onReadings(await answered(client.POST("/api/trials/{id}/readings", { params: path, body: { source: "hand", readings: readings.map((i) => i.reading) } })));
        });
      }
      for (const item of list.filter((i) => "event" in i)) {
        await send([item], async () => {
          const trial = await answered(client.POST("/api/trials/{id}/events", { params: path, body: item.event }));
          handler.current.onEvent(item.event, trial.events.filter((e) => e.kind === item.event.kind).at(-1)?.id);
        });
      }
      sending.current = false;
    };
    void flush();
    const again = setInterval(() => void flush(), 5000);
    return () => clearInterval(again);
  }, [list, trialId, notices]);

  const stamp = useCallback(() => new Date(Math.round(serverClock() ?? Date.now())).toISOString(), [serverClock]);
  const send = useCallback((reading: Omit<NewReading, "time">) => setList((old) => [...old, { reading: { ...reading, time: stamp() } }]), [stamp]);
  const note = useCallback(
    (kind: EventKind, text: string, channel: string) =>
      setList((old) => [...old, { event: { kind, note: text, channel, time: stamp(), uid: mark() } }]),
    [stamp],
  );
  return { send, note, waiting: list.length };
}

/** A mark that no other event carries; not every page may use the browser's own. */
function mark(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}
