import { Box, Typography } from "@mui/material";
import type { Flag } from "../api/client";
import { usePrefs } from "../look/prefs";
import { say, type Units } from "../look/units";

/** Cautions and limits by weight: what stops stands open, what is to be minded shows its first sentence, notes share one fold. */
export function Flags({ flags }: { flags: Flag[] }) {
  const { units } = usePrefs();
  const of = (level: Flag["level"]) => flags.filter((f) => f.level === level);
  const notes = of("note");
  return (
    <Box aria-label="cautions" role="group">
      {of("stop").map((flag) => (
        <Box key={say(flag.text, units)} className="flag flag-stop"><Typography><b>Stop.</b> {say(flag.text, units)}</Typography></Box>
      ))}
      {of("warn").map((flag) => <Minded key={say(flag.text, units)} words={say(flag.text, units)} />)}
      {notes.length > 0 && (
        <details className="flag flag-note">
          <summary><b>{notes.length === 1 ? "One note" : `${notes.length} notes`}:</b> {notes.map((f) => aboutOf(f, units)).join(", ")}</summary>
          {notes.map((flag) => <Typography variant="body2" key={say(flag.text, units)} className="mt-0_5">{say(flag.text, units)}</Typography>)}
        </details>
      )}
      <Typography variant="body2" className="ink-soft mt-0_5">
        None of this declares anything safe; local codes and makers' instructions come first.
      </Typography>
    </Box>
  );
}

/** The first sentence of a caution, and the rest of it in a fold. */
function Minded({ words }: { words: string }) {
  const [, first, rest] = /^(.{10,}?\.)\s+(.*)$/s.exec(words) ?? [null, words, ""];
  if (!rest) return <Box className="flag flag-warn"><Typography variant="body2"><b>Mind.</b> {words}</Typography></Box>;
  return (
    <details className="flag flag-warn">
      <summary><b>Mind.</b> {first}</summary>
      <Typography variant="body2">{rest}</Typography>
    </details>
  );
}

/** What a note is about: the words before its colon, or its first few. */
function aboutOf(flag: Flag, units: Units): string {
  const words = say(flag.text, units);
  const colon = words.indexOf(":");
  return (colon > 0 && colon < 24 ? words.slice(0, colon) : words.split(" ").slice(0, 3).join(" ")).toLowerCase();
}
