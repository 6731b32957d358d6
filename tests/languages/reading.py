"""What a page says that is not in the language it should speak, and what of it cannot be read whole."""

from __future__ import annotations

import ast
import json
import re
from functools import cache
from pathlib import Path

from playwright.sync_api import Page

ROOT = Path(__file__).parents[2]
TEXTS = """
() => {
  const out = [];
  const own = "code, pre, textarea, [data-own]";
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walk.nextNode()) {
    const parent = walk.currentNode.parentElement;
    if (parent && !["SCRIPT", "STYLE"].includes(parent.tagName) && !parent.closest(own)) out.push(walk.currentNode.textContent);
  }
  for (const one of document.querySelectorAll("[aria-label], [title], [placeholder], [alt]"))
    if (!one.closest(own)) for (const name of ["aria-label", "title", "placeholder", "alt"]) out.push(one.getAttribute(name) ?? "");
  return out;
}
"""
CUT = """
() => {
  const out = [];
  const seen = (one) => { const r = one.getBoundingClientRect(); return r.width > 1 && r.height > 1 && getComputedStyle(one).visibility !== "hidden"; };
  for (const one of document.querySelectorAll("body *")) {
    const words = [...one.childNodes].some((n) => n.nodeType === 3 && n.textContent.trim());
    if (!words || !seen(one)) continue;
    if (one instanceof SVGElement) {
      const svg = one.ownerSVGElement;
      if (!svg || getComputedStyle(svg).overflow === "visible" || !(one instanceof SVGGraphicsElement)) continue;
      const [inner, outer] = [one.getBoundingClientRect(), svg.getBoundingClientRect()];
      if (inner.left < outer.left - 2 || inner.right > outer.right + 2) out.push(one.textContent);
      continue;
    }
    // The nearest that hides what runs over: told whole in a title, or by itself when it is pointed at, it is not lost.
    for (let about = one; about; about = about.parentElement) {
      const style = getComputedStyle(about);
      if (about.closest("[title], .lane-words, .MuiInputBase-root, option, select")) break;
      if (style.overflowX === "hidden" || style.overflowX === "clip") {
        const [inner, outer] = [one.getBoundingClientRect(), about.getBoundingClientRect()];
        if (one.scrollWidth > one.clientWidth + 1 && about === one && style.display !== "inline") out.push(one.textContent);
        else if (about !== one && (inner.left < outer.left - 2 || inner.right > outer.right + 2) && outer.width > 2) out.push(one.textContent);
        break;
      }
      if (style.overflowX === "auto" || style.overflowX === "scroll") break;
    }
  }
  return out.map((text) => text.trim().slice(0, 120));
}
"""
WORD = re.compile(r"[A-Za-z][a-z’'-]{2,}")
RUN = re.compile(r"[A-Za-z][A-Za-z’', -]*[A-Za-z]")
"""Words in plain letters, one after another."""
ONE_WORD = (
    "terrace", "orchard", "edge", "flat", "roof", "house", "shed", "bare", "stove", "barbecue", "chalk", "satin", "optical", "natural", "pale", "dark", "tray", "heap", "baffle",
    "board", "air", "inside-air", "control",
)  # fmt: skip
"""Names of one word that somebody gave in the made-up yard, in small letters."""


@cache
def own_texts() -> tuple[frozenset[str], str]:
    """What somebody typed in the made-up yard, and units, which stay as they are in every language: words alone, and sentences."""
    alone, sentences = set(ONE_WORD), []
    for path in (ROOT / "src" / "drylamp" / "demo").glob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if (
                isinstance(node, ast.Constant)
                and isinstance(node.value, str)
                and (" " in node.value or node.value[:1].isupper())
            ):
                sentences.append(node.value.lower())
    units = json.loads((ROOT / "frontend" / "src" / "api" / "units.json").read_text(encoding="utf-8"))["units"]
    for rows in units.values():
        alone |= {word.lower() for unit in rows for word in WORD.findall(unit["symbol"])}
    return frozenset(alone), "\n".join(sentences)


def untranslated(page: Page, also: tuple[str, ...] = ()) -> list[str]:
    """Texts of a page with words in plain letters that nobody typed, save those that are given."""
    return [
        text.strip()[:160]
        for text in dict.fromkeys(page.evaluate(TEXTS))
        if any(not _is_own(run, also) for run in RUN.findall(text))
    ]


def _is_own(run: str, also: tuple[str, ...]) -> bool:
    alone, sentences = own_texts()
    alone = alone.union(also)
    said = run.lower().strip(" ,.;:-–")
    if "," in said and said not in sentences:
        return all(_is_own(part, also) for part in said.split(","))
    words = WORD.findall(run)
    if not words or all(word.lower() in alone for word in words):
        return True
    return (" " in said or f"\n{said}\n" in f"\n{sentences}\n") and said in sentences


def cut(page: Page) -> list[str]:
    """Texts that run out of what shows them."""
    return list(dict.fromkeys(page.evaluate(CUT)))
