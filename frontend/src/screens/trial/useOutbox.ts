import { useCallback, useEffect, useRef, useState } from "react";
import { answered, asProblem, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useNotices } from "../../look/notices";
import { useNow } from "../../look/day";
import { kept, keep } from "../../look/prefs";

type NewReading = components["schemas"]["NewReading"];
type Answer = components["schemas"]["BatchAnswer"];

/**
 * Readings typed here are kept on the device, stamped, and sent until the server has acknowledged them. Sending one
 * twice does no harm: the server knows a reading by its channel and time.
 */
export function useOutbox(trialId: number, onAnswer: (answer: Answer) => void) {
  const key = `drylamp.outbox.${trialId}`;
  const notices = useNotices();
  const now = useNow(5000);
  const [list, setList] = useState<NewReading[]>(() => kept(key, []));
  const sending = useRef(false);
  const handler = useRef(onAnswer);
  const clock = useRef<{ now: number; at: number } | null>(null);
  useEffect(() => {
    handler.current = onAnswer;
    if (now !== null) clock.current = { now, at: performance.now() };
  }, [onAnswer, now]);
  useEffect(() => keep(key, list), [key, list]);

  useEffect(() => {
    if (list.length === 0) return;
    const flush = async () => {
      if (sending.current) return;
      sending.current = true;
      try {
        const answer = await answered(client.POST("/api/trials/{id}/readings", { params: { path: { id: trialId } }, body: { source: "hand", readings: list } }));
        setList((old) => old.filter((r) => !list.includes(r)));
        handler.current(answer);
      } catch (error) {
        const problem = asProblem(error);
        // A refusal will not mend itself: say why, and stop sending it.
        if (problem.status >= 400 && problem.status < 500) {
          setList((old) => old.filter((r) => !list.includes(r)));
          notices.warn(`Not kept: ${problem.message}`);
        }
      } finally {
        sending.current = false;
      }
    };
    void flush();
    const again = setInterval(() => void flush(), 5000);
    return () => clearInterval(again);
  }, [list, trialId, notices]);

  const send = useCallback((reading: Omit<NewReading, "time">) => {
    const server = clock.current;
    const instant = server ? server.now + performance.now() - server.at : Date.now();
    const time = new Date(Math.round(instant)).toISOString();
    setList((old) => [...old, { ...reading, time }]);
  }, []);
  return { send, waiting: list.length };
}
