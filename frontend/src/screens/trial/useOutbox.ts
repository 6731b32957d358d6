import { useCallback, useSyncExternalStore } from "react";
import type { EventKind } from "../../api/client";
import { useServerClock } from "../../look/day";
import { mark, outbox, type NewReading } from "../../look/outbox";

/** What is typed, noted and photographed in a trial, stamped with the server's time and handed to the outbox. */
export function useOutbox(trialId: number) {
  const serverClock = useServerClock();
  const waiting = useSyncExternalStore(outbox.watch, outbox.waiting);
  const stamp = useCallback(() => new Date(Math.round(serverClock() ?? Date.now())).toISOString(), [serverClock]);
  const send = useCallback((reading: Omit<NewReading, "time">) => void outbox.put(trialId, { kind: "reading", reading: { ...reading, time: stamp() } }), [trialId, stamp]);
  const note = useCallback(
    (kind: EventKind, text: string, channel: string) => void outbox.put(trialId, { kind: "event", event: { kind, note: text, channel, time: stamp(), uid: mark() } }),
    [trialId, stamp],
  );
  const photo = useCallback((file: Blob, text: string) => void outbox.put(trialId, { kind: "photo", photo: file, note: text.trim(), time: stamp(), uid: mark() }), [trialId, stamp]);
  return { send, note, photo, waiting: waiting.byTrial[trialId] ?? 0 };
}
