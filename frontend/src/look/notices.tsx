import { Button, Paper, Stack, Typography } from "@mui/material";
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from "react";
import { undoing } from "./undo";

/** Short messages at the foot of the page, some with one thing to do about them. */
interface Notice {
  id: number;
  text: string;
  bad: boolean;
  action?: { label: string; run: () => void };
}

interface Notices {
  say: (text: string, action?: Notice["action"]) => void;
  warn: (text: string, action?: Notice["action"]) => void;
  /** Something was done that can be taken back, here and in the one place for it. */
  done: (text: string, undo: () => unknown) => void;
}

const NoticesContext = createContext<Notices | null>(null);
let nextId = 1;

export function useNotices(): Notices {
  const notices = useContext(NoticesContext);
  if (!notices) throw new Error("useNotices outside NoticesProvider");
  return notices;
}

export function NoticesProvider({ children }: { children: ReactNode }) {
  const [list, setList] = useState<Notice[]>([]);
  const drop = useCallback((id: number) => setList((old) => old.filter((n) => n.id !== id)), []);
  const add = useCallback(
    (text: string, bad: boolean, action?: Notice["action"]) => {
      const id = nextId++;
      setList((old) => [...old.filter((n) => n.text !== text), { id, text, bad, action }].slice(-3));
      if (!bad) setTimeout(() => drop(id), 8000);
    },
    [drop],
  );
  const value = useMemo<Notices>(
    () => ({ say: (text, action) => add(text, false, action), done: (text, undo) => add(text, false, { label: "Undo", run: undoing.did(text, undo).back }), warn: (text, action) => add(text, true, action) }),
    [add],
  );
  return (
    <NoticesContext value={value}>
      {children}
      <Stack
        role="status" aria-live="polite" spacing={1} className="no-print notices"
      >
        {list.map((notice) => (
          <Paper
            key={notice.id} variant="outlined"
            sx={(t) => ({ p: 1.25, borderInlineStart: `6px solid ${notice.bad ? t.ink.stop : t.ink.sun}`, display: "flex", gap: 1.5, alignItems: "center" })}
          >
            <Typography variant="body2" className="flex-1">{notice.text}</Typography>
            {notice.action && (
              <Button onClick={() => { notice.action?.run(); drop(notice.id); }}>{notice.action.label}</Button>
            )}
            <Button variant="text" aria-label="ok, dismiss message" onClick={() => drop(notice.id)}>ok</Button>
          </Paper>
        ))}
      </Stack>
    </NoticesContext>
  );
}
