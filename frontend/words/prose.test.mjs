// Which texts of the pages are sentences, and a source with others in their place.
import { expect, test } from "vitest";
import { inOtherWords, sentencesOf } from "./prose.mjs";

const heard = (source) => [...sentencesOf(source, "a.tsx").keys()];

test.each([
  ["text between tags, whole, with its values", "const a = <p>{count} of {whole.size} <b>boards</b> are dry.</p>;", ["{count} of {size} {b} are dry.", "boards"]],
  ["an attribute for words", 'const a = <Button title="dry">{on ? "on" : "off"}</Button>;', ["dry", "on", "off"]],
  ["a text with values", "notices.say(`${name} is put away.`);", ["{name} is put away."]],
  ["lines are joined as they are shown", "const a = <p>\n  one line\n  and another\n</p>;", ["one line and another"]],
  ["a table of words", 'const NAME_WORDS = { holds: "holds" };', ["holds"]],
])("%s", (_, source, sentences) => expect(heard(source).sort()).toEqual(sentences.sort()));

test.each([
  'import { a } from "a b c";',
  'const a = <Box className="flex wrap gap-1" role="group" />;',
  'if (kind === "all of it") run();',
  'type Kind = "all of it" | "none of it";',
  "const font = `${weight} ${size}px ${family}`;",
  'const url = `/api/builds/${id}/${own ? "own" : "all"}`;',
  'const example = `{"readings": [{"value": 48.5}]}`;',
  'const BODY = \'"Bitter Variable", Georgia, serif\';',
])("code is no sentence: %s", (source) => expect(heard(source)).toEqual([]));

test("values and tags go where a language wants them", () => {
  const words = { "{count} of {b} are dry.": "Von {b} sind {count} trocken.", boards: "Brettern" };
  const said = inOtherWords("const a = <p>{count} of <b>boards</b> are dry.</p>;", "a.tsx", (text) => words[text] ?? null);
  expect(said).toBe('const a = <p>{"Von "}<b>{"Brettern"}</b>{" sind "}{count}{" trocken."}</p>;');
});

test("a translation that loses a value is told", () => {
  expect(() => inOtherWords("const a = <p>{count} boards</p>;", "a.tsx", () => "Bretter")).toThrow("name each of them once");
});

test("what has no translation stays as it is written", () => {
  const source = "const a = <p>{count} boards</p>; // all of them\n";
  expect(inOtherWords(source, "a.tsx", () => null)).toBe(source);
});
