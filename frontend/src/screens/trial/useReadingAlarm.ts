import { useCallback, useEffect, useRef, useState } from "react";
import { kept, keep } from "../../look/prefs";

/**
 * Sound and vibration when a reading is due. The tone is scheduled ahead on the audio clock, which goes on where timers of a
 * hidden page are held back; a second look when the page is shown again makes up for a phone that slept through it. Where
 * somebody allowed it, a message tells of it while another page is looked at.
 */
export function useReadingAlarm(dueMs: number | null, nowMs: number | null, about: { title: string; address: string }) {
  const [on, setOn] = useState<boolean>(() => kept("drylamp.alarm", false));
  const audio = useRef<AudioContext | null>(null);
  const rung = useRef<number | null>(null);
  const planned = useRef<{ due: number; tone: OscillatorNode } | null>(null);

  const toggle = useCallback(() => {
    // Browsers let a page sound only after a touch: this is one.
    audio.current ??= typeof AudioContext === "undefined" ? null : new AudioContext();
    void audio.current?.resume();
    if (!on && "Notification" in window && Notification.permission === "default") void Notification.requestPermission();
    if (!on) tone(audio.current, 0, 0.15);
    keep("drylamp.alarm", !on);
    setOn(!on);
  }, [on]);

  useEffect(() => {
    if (!on || dueMs === null || nowMs === null || !audio.current || planned.current?.due === dueMs || dueMs <= nowMs) return;
    planned.current?.tone.stop();
    const made = tone(audio.current, (dueMs - nowMs) / 1000, 0.8);
    if (made) planned.current = { due: dueMs, tone: made };
  }, [on, dueMs, nowMs]);

  useEffect(() => {
    if (!on || dueMs === null || nowMs === null || nowMs < dueMs || rung.current === dueMs) return;
    rung.current = dueMs;
    navigator.vibrate?.([300, 120, 300]);
    if (planned.current?.due !== dueMs) tone(audio.current, 0, 0.8);
    if (document.visibilityState !== "visible") void tell(about.title, about.address);
  }, [on, dueMs, nowMs, about.title, about.address]);

  return { on, toggle };
}

/** A message of the device's own, through the worker where there is one: a phone shows no other. */
async function tell(title: string, address: string): Promise<void> {
  if (!("Notification" in window) || Notification.permission !== "granted") return;
  const worker = await navigator.serviceWorker?.getRegistration();
  const how = { tag: address, data: { address }, icon: "/icon-192.png" };
  if (worker) await worker.showNotification(title, how);
  else new Notification(title, how);
}

/** Reads a sentence aloud, where the device can; only ever when somebody asks for it. */
export function useReadAloud() {
  const can = "speechSynthesis" in window;
  const read = useCallback((words: string) => {
    window.speechSynthesis.cancel();
    const said = new SpeechSynthesisUtterance(words);
    said.lang = document.documentElement.lang;
    window.speechSynthesis.speak(said);
  }, []);
  return { can, read };
}

function tone(context: AudioContext | null, inSeconds: number, seconds: number): OscillatorNode | null {
  if (!context) return null;
  const made = context.createOscillator();
  const loud = context.createGain();
  loud.gain.value = 0.25;
  made.frequency.value = 880;
  made.connect(loud).connect(context.destination);
  made.start(context.currentTime + inSeconds);
  made.stop(context.currentTime + inSeconds + seconds);
  return made;
}

/** Keep the screen awake while a trial is looked at, where the browser can. */
export function useScreenAwake() {
  const [on, setOn] = useState(false);
  const lock = useRef<WakeLockSentinel | null>(null);
  const can = "wakeLock" in navigator;
  useEffect(() => {
    if (!on) return;
    const hold = async () => {
      try {
        if (document.visibilityState === "visible") lock.current = await navigator.wakeLock.request("screen");
      } catch {
        setOn(false);
      }
    };
    void hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      document.removeEventListener("visibilitychange", hold);
      void lock.current?.release();
    };
  }, [on]);
  return { on, can, toggle: () => setOn(!on) };
}
