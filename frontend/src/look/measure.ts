/** How wide a text is drawn, px; roughly where no canvas is at hand. */
const ROUGHLY = 0.54;
let pen: CanvasRenderingContext2D | null | undefined;

export function textWidth(text: string, sizePx: number, family: string, weight = 400): number {
  pen ??= typeof document === "undefined" ? null : document.createElement("canvas").getContext("2d");
  if (!pen) return text.length * sizePx * ROUGHLY;
  pen.font = `${weight} ${sizePx}px ${family}`;
  return pen.measureText(text).width;
}
