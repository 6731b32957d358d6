/** Every key that does something, with what it does: the list in the help is made of this, and no key works that is not in it. */
export const KEYS = {
  "/": { words: "find a build, part, trial, sum, saying or material", where: "everywhere" },
  "=": { words: "quick sums", where: "everywhere" },
  "?": { words: "this list", where: "everywhere" },
  "[": { words: "lamp an hour back", where: "everywhere" },
  "]": { words: "lamp an hour on", where: "everywhere" },
  ",": { words: "a day back", where: "everywhere" },
  ".": { words: "a day on", where: "everywhere" },
  n: { words: "back to now", where: "everywhere" },
  d: { words: "dusk or daylight", where: "everywhere" },
  p: { words: "print what is shown", where: "everywhere" },
  y: { words: "to the yard", where: "everywhere" },
  "1": { words: "aim", where: "in a build" },
  "2": { words: "make", where: "in a build" },
  "3": { words: "forecast", where: "in a build" },
  "4": { words: "trials", where: "in a build" },
  "5": { words: "verdict", where: "in a build" },
  "6": { words: "next", where: "in a build" },
  u: { words: "undo what was done last; what that is stands at the foot of the rack", where: "everywhere" },
  r: { words: "type a reading", where: "in a trial" },
  e: { words: "note an event", where: "in a trial" },
} as const;

export type Key = keyof typeof KEYS;

/** Keys of single things, once they are reached by Tab. */
export const HELD_KEY_WORDS: [string, string, string][] = [
  ["← →", "ten minutes back or on; Page Up and Down: an hour", "on the lamp"],
  ["← →", "from mark to mark", "in a lane of the yard"],
  ["← →", "from part to part; Enter opens one", "on a drawing"],
  ["↑ ↓", "a degree more or less; Page Up and Down: ten; Home, End: as far as it goes", "on a round grip"],
  ["Enter", "keeps what is typed", "in a field"],
  ["Esc", "closes", "in a dialog"],
];
