import { useSyncExternalStore } from "react";
import { Watched } from "./watched";

/** How wide a text is drawn, px; roughly where no canvas is at hand. */
const ROUGHLY = 0.54;
let loaded = 0;
let pen: CanvasRenderingContext2D | null | undefined;
const letters = new Watched();
globalThis.document?.fonts.addEventListener("loadingdone", () => {
  loaded += 1;
  pen = undefined; // a pen keeps to the letters that it found when it was given its font
  letters.tell();
});

/** Changes whenever letters have come that were not there yet: what was measured before is measured anew. */
export const useFonts = () => useSyncExternalStore(letters.watch, () => loaded);

export function textWidth(text: string, sizePx: number, family: string, weight = 400): number {
  pen ??= typeof document === "undefined" ? null : document.createElement("canvas").getContext("2d");
  if (!pen) return text.length * sizePx * ROUGHLY;
  pen.font = `${weight} ${sizePx}px ${family}`;
  return pen.measureText(text).width;
}
