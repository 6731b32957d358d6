import { Box, Button, Dialog, DialogContent, TextField, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState, type KeyboardEvent } from "react";
import { useNavigate } from "react-router";
import type { Found } from "../api/client";
import { findQuery } from "../api/queries";
import { useDay } from "../look/day";
import { Problem } from "./Problem";

/** Whatever somebody knows the name of and not the place: typed in a few letters, opened by Enter. */
interface Props {
  onClose: () => void;
  onSum: (name: string) => void;
  /** What the frame itself can do, by its words. */
  doings: { title: string; run: () => void }[];
}

interface Hit {
  key: string;
  title: string;
  hint: string;
  open: () => void;
}

export default function Finder({ onClose, onSum, doings }: Props) {
  const { siteId } = useDay();
  const navigate = useNavigate();
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(0);
  const found = useQuery({ ...findQuery(siteId, typed.trim()), enabled: typed.trim() !== "" });
  const go = (address: string) => void navigate(address);
  const places: Record<Found["what"], (f: Found) => void> = {
    build: (f) => go(`/builds/${f.build_id}/forecast`),
    part: (f) => go(`/builds/${f.build_id}/make?part=${encodeURIComponent(f.name)}`),
    trial: (f) => go(`/trials/${f.trial_id}`),
    saying: (f) => go(`/builds/${f.build_id}/next`),
    material: (f) => go(`/sites/${siteId}/shelf?material=${encodeURIComponent(f.title)}`),
    sum: (f) => onSum(f.name),
  };
  const words = typed.trim().toLowerCase();
  const own: Hit[] = doings.filter((d) => words === "" || d.title.toLowerCase().includes(words)).map((d) => ({ key: d.title, title: d.title, hint: "", open: d.run }));
  const theirs: Hit[] = words === "" ? [] : (found.data ?? []).map((f) => ({ key: `${f.what} ${f.build_id} ${f.trial_id} ${f.name} ${f.title}`, title: f.title, hint: f.hint, open: () => places[f.what](f) }));
  const hits = [...theirs, ...own];
  const here = Math.min(at, hits.length - 1);
  const take = (hit: Hit | undefined) => {
    if (!hit) return;
    onClose();
    hit.open();
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === "Enter") take(hits[here]);
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    setAt((here + by + hits.length) % Math.max(hits.length, 1));
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-label="find" className="finder">
      <DialogContent>
        <TextField
          label="Find" value={typed} inputRef={(node: HTMLInputElement | null) => node?.focus()} onKeyDown={onKey} onChange={(e) => { setTyped(e.target.value); setAt(0); }}
          slotProps={{ htmlInput: { role: "combobox", "aria-expanded": true, "aria-controls": "found", "aria-activedescendant": hits[here] ? `found-${here}` : undefined, autoComplete: "off", maxLength: 80 } }}
        />
        {found.error && words !== "" && <Problem error={found.error} />}
        <Box component="ul" id="found" role="listbox" aria-label="what was found" className="no-marks p-0 m-0 mt-1">
          {hits.map((hit, i) => (
            <Box component="li" key={hit.key} id={`found-${i}`} role="option" aria-selected={i === here} className={i === here ? "found found-here" : "found"} onMouseMove={() => setAt(i)} onClick={() => take(hit)}>
              <span className="weight-600">{hit.title}</span> <span className="ink-soft">{hit.hint}</span>
            </Box>
          ))}
        </Box>
        {words !== "" && found.data && hits.length === 0 && <Typography className="mt-1">Nothing has these words. Try fewer letters.</Typography>}
        <Button onClick={onClose} className="mt-1">Close</Button>
      </DialogContent>
    </Dialog>
  );
}
