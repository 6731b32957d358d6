/** A number of things in words. What is one thing in English is all its forms in another language, of which the number takes one. */
export function counted(number: number, thing: string | readonly string[]): string {
  if (typeof thing === "string") return `${number} ${thing}${number === 1 ? "" : "s"}`;
  return `${number} ${thing[Math.min(__PLURAL__(number), thing.length - 1)]}`;
}
