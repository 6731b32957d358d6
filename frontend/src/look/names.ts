/** Names that code goes by, as a person reads them: the same in English, their own words in another language. */
const NAME_WORDS: Record<string, string> = {
  aim: "aim", make: "make", forecast: "forecast", trials: "trials", verdict: "verdict", next: "next",
  holds: "holds", "holds partly": "holds partly", wrong: "wrong", "does not matter here": "does not matter here",
  cook: "cook", heat: "heat", warm: "warm", dry: "dry", melt: "melt", season: "season", test: "test", swim: "swim", boil: "boil", brew: "brew", bake: "bake",
  once: "once", "a day": "a day", "a week": "a week", "a month": "a month", "a year": "a year",
  unchanged: "unchanged", soft: "soft", melted: "melted", browned: "browned", salvage: "salvage",
  tray: "tray", bottom: "bottom", catch: "catch", water: "water",
  cloud: "cloud", gust: "gust", opened: "opened", turned: "turned", shaded: "shaded", refilled: "refilled", moved: "moved", sky: "sky", swapped: "swapped",
  fade: "fade", flake: "flake", leak: "leak", note: "note",
  night: "night",
  yes: "yes", no: "no", none: "none",
  sun: "sun", air: "air", wood: "wood", food: "food", money: "money",
  left: "left", right: "right", up: "up", down: "down",
  clear: "clear", hazy: "hazy", broken: "broken", grey: "grey",
};

export const named = (name: string) => NAME_WORDS[name] ?? name;
