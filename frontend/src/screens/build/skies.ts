import type { SkyState } from "../../api/client";

/** Skies as one calls them. */
export const SKIES: { value: SkyState; title: string }[] = [
  { value: "clear", title: "clear sky" },
  { value: "hazy", title: "hazy sky" },
  { value: "broken", title: "broken cloud" },
  { value: "grey", title: "grey sky" },
];
