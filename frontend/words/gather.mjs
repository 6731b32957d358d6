// Prints the sentences of the pages and where each stands, as JSON.
import { readdirSync, readFileSync, statSync } from "node:fs";
import { join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { isSource } from "./plugin.mjs";
import { sentencesOf } from "./prose.mjs";

const ROOT = fileURLToPath(new URL("..", import.meta.url));
const below = (folder) => readdirSync(folder).sort().map((name) => join(folder, name)).flatMap((path) => (statSync(path).isDirectory() ? below(path) : [path]));

const [sentences, counted] = [{}, []];
for (const path of below(join(ROOT, "src")).filter(isSource)) {
  for (const [text, isCounted] of sentencesOf(readFileSync(path, "utf8"), path)) {
    (sentences[text] ??= []).push(join("frontend", relative(ROOT, path)));
    if (isCounted) counted.push(text);
  }
}
process.stdout.write(JSON.stringify({ sentences, counted }));
