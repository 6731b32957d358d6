// Lays a language over the pages while they are built: its catalogue is named by DRYLAMP_PO; without one they stay English.
import { readFileSync } from "node:fs";
import { po } from "gettext-parser";
import { inOtherWords } from "./prose.mjs";

// A wish is read in English: what is picked for one is written in its grammar.
const LEFT = /wishSentence\.ts$|\.test\.ts$|schema\.ts$|\.d\.ts$/;
/** Written from the end to the beginning of a line. */
const FROM_RIGHT = new Set(["ar", "dv", "fa", "he", "ks", "ps", "sd", "ug", "ur", "yi"]);

/** Whether sentences may stand in a file. */
export const isSource = (path) => /[\\/]src[\\/].*\.tsx?$/.test(path) && !/node_modules/.test(path) && !LEFT.test(path);

/** Which form a number takes, as gettext's head of a file says it; as in English where it says nothing. */
function ruleOf(head) {
  const rule = /plural=([^;]+)/.exec(head ?? "")?.[1] ?? "n != 1";
  if (!/^[n\d\s?:()%<>=!&|]+$/.test(rule)) throw new Error(`“${rule}” is no rule of plurals; write one in n, such as “n != 1”, at the head of the .po file`);
  return `((n) => Number(${rule}))`;
}

export function words(path) {
  const file = path ? po.parse(readFileSync(path)) : null;
  const entries = file?.translations[""] ?? {};
  const language = file?.headers.Language ?? "en";
  return {
    name: "words",
    enforce: "pre",
    config: () => ({ define: { __PLURAL__: ruleOf(file?.headers["Plural-Forms"]) } }),
    transform(source, id) {
      const name = id.split("?")[0];
      if (!file || !isSource(name)) return null;
      return { code: inOtherWords(source, name, (text, isCounted) => (isCounted ? entries[text]?.msgstr : entries[text]?.msgstr[0]) || null), map: null };
    },
    transformIndexHtml: (html) => html.replace('<html lang="en">', `<html lang="${language}"${FROM_RIGHT.has(language.split(/[-_]/)[0]) ? ' dir="rtl"' : ""}>`),
  };
}
