import { useQuery } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { Site } from "../api/client";
import { nowQuery, stripQuery } from "../api/queries";
import { dayOf, shiftDay } from "./clock";

/** The chosen day and the lamp's hour, shared by everything with a time axis. Both live in the address. */
interface Day {
  siteId: number;
  site: Site;
  day: string;
  now: number;
  domain: [number, number] | null;
  setDay: (day: string) => void;
  /** Move by days; quick presses add up. */
  moveDay: (days: number) => void;
  setLamp: (instant: number) => void;
  /** Move the lamp by minutes; quick presses add up. */
  moveLamp: (minutes: number) => void;
  backToNow: () => void;
}

/** A hand that rests so long has put the lamp down. */
const REST_MS = 160;

/** The lamp's instant, ms, and whether that is now; apart from the day, so that only what it lights is drawn anew while it moves. */
interface Lamp {
  lamp: number;
  isNow: boolean;
}

const DayContext = createContext<Day | null>(null);
const LampContext = createContext<Lamp | null>(null);

export function useLamp(): Lamp {
  const lamp = useContext(LampContext);
  if (!lamp) throw new Error("useLamp outside DayProvider");
  return lamp;
}

export function useDay(): Day {
  const day = useContext(DayContext);
  if (!day) throw new Error("useDay outside DayProvider");
  return day;
}

/** The server's clock as it stands when it is asked; null before the server has told it. */
export function useServerClock(): () => number | null {
  const { data } = useQuery(nowQuery);
  return useCallback(() => (data ? data.atMs + performance.now() - data.perfMs : null), [data]);
}

/** The server's clock, ticking. */
export function useNow(everyMs = 15_000): number | null {
  const { data } = useQuery(nowQuery);
  const [tick, setTick] = useState(() => performance.now());
  useEffect(() => {
    const timer = setInterval(() => setTick(performance.now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return data ? data.atMs + Math.max(0, tick - data.perfMs) : null;
}

interface Props {
  siteId: number;
  site: Site;
  now: number;
  children: ReactNode;
}

export function DayProvider({ siteId, site, now, children }: Props) {
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const today = dayOf(now, site.time_zone);
  const asked = params.get("day");
  const day = asked && /^\d{4}-\d\d-\d\d$/.test(asked) ? asked : today;
  const strip = useQuery(stripQuery(siteId, day)).data;
  const domain = useMemo<[number, number] | null>(
    () => (strip?.day === day ? [Date.parse(strip.start), Date.parse(strip.end)] : null),
    [strip, day],
  );
  const middle = domain ? (domain[0] + domain[1]) / 2 : now;
  const at = params.get("at");
  const chosen = at && domain ? domain[0] + Number(at) * 60_000 : null;
  const isNow = chosen === null && day === today;
  const stands = chosen !== null && Number.isFinite(chosen) ? chosen : isNow ? now : middle;
  // While it is drawn along, the lamp is where the hand is; the address follows when the hand rests.
  const [held, setHeld] = useState<{ day: string; at: number } | null>(null);
  const lamp = held?.day === day ? held.at : stands;

  const change = useCallback(
    (set: Record<string, string | null>) => {
      // The address as it is by now, not as it was drawn last: a key may be pressed while the next view is on its way.
      const { pathname, search } = window.location;
      const next = new URLSearchParams(search);
      for (const [key, value] of Object.entries(set)) {
        if (value === null) next.delete(key);
        else next.set(key, value);
      }
      void navigate({ pathname, search: next.toString() }, { replace: true });
    },
    [navigate],
  );

  const resting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const latest = useRef(lamp);
  const latestDay = useRef(day);
  useEffect(() => {
    latest.current = lamp;
    latestDay.current = day;
  }, [lamp, day]);
  const setLamp = useCallback(
    (instant: number) => {
      if (!domain) return;
      latest.current = Math.min(Math.max(instant, domain[0]), domain[1]);
      setHeld({ day, at: latest.current });
      clearTimeout(resting.current);
      const at = String(Math.round((latest.current - domain[0]) / 60_000));
      resting.current = setTimeout(() => {
        resting.current = undefined;
        change({ at });
      }, REST_MS);
    },
    [domain, day, change],
  );
  const dropHeld = useCallback(() => {
    clearTimeout(resting.current);
    resting.current = undefined;
    setHeld(null);
  }, []);
  // Only once the address has come: let go before, the lamp would jump back to where it was, and the next key go on from there.
  useEffect(() => {
    if (resting.current === undefined) setHeld(null);
  }, [at]);

  const value = useMemo<Day>(
    () => ({
      siteId,
      site,
      day,
      now,
      domain,
      setDay: (next) => change({ day: next === today ? null : next }),
      moveDay: (days) => {
        latestDay.current = shiftDay(latestDay.current, days);
        change({ day: latestDay.current === today ? null : latestDay.current });
      },
      setLamp,
      moveLamp: (minutes) => setLamp(latest.current + minutes * 60_000),
      backToNow: () => {
        dropHeld();
        change({ day: null, at: null });
      },
    }),
    [siteId, site, day, now, domain, today, change, setLamp, dropHeld],
  );
  const lit = useMemo<Lamp>(() => ({ lamp, isNow }), [lamp, isNow]);
  return (
    <DayContext value={value}>
      <LampContext value={lit}>{children}</LampContext>
    </DayContext>
  );
}
