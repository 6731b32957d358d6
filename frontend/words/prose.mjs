// Which texts of a TypeScript source are sentences that a person reads, and the source with others in their place.
// There is no mark on a sentence: text between tags, what an attribute for words is given, and any text with a space in it
// is one, unless it stands where code is asked for (a class, a type, a comparison, a key).
import ts from "typescript";

const CODE_ATTRIBUTES = new Set([
  "className", "sx", "style", "component", "variant", "key", "id", "role", "type", "d", "viewBox", "points", "transform", "href", "to", "src", "accept", "name", "htmlFor",
  "color", "fill", "stroke", "strokeDasharray", "markerEnd", "clipPath", "preserveAspectRatio", "rel", "target", "inputMode", "autoComplete", "pattern", "scope", "dir",
  "textAnchor", "dominantBaseline", "fontFamily", "severity", "orientation", "margin", "size", "edge", "aria-live", "aria-controls", "aria-current", "sizes", "media",
]);
const WORD_NAMES = new Set([
  "label", "title", "placeholder", "alt", "what", "helperText", "text", "words", "where", "short", "said", "empty", "unit", "caption", "aria-label", "aria-description", "aria-roledescription",
  "aria-valuetext", "heading", "primary", "secondary", "description", "summary", "note", "once", "message", "group", "ask", "yes", "no", "done",
]);
/** Properties whose texts are never read. */
const CODE_PROPERTIES = new Set(["className", "sx", "queryKey", "path", "url", "kind", "name", "key", "font", "fontFamily", "fill", "stroke", "transition", "background", "border", "boxShadow", "gridTemplateColumns", "animation", "grid", "padding", "margin", "inset", "flex"]);
const CODE_CALLS = new Set(["querySelector", "querySelectorAll", "closest", "matches", "matchMedia", "addEventListener", "getItem", "setItem", "createElement", "setAttribute", "getAttribute", "GET", "POST", "PUT", "PATCH", "DELETE", "test", "split", "startsWith", "endsWith", "includes", "has", "DateTimeFormat", "RegExp", "register", "import", "useMediaQuery"]);
const ENTITIES = { "&nbsp;": "\u00a0", "&amp;": "&", "&lt;": "<", "&gt;": ">", "&ldquo;": "“", "&rdquo;": "”" };
const LETTERS = /\p{L}{2,}/u;
const GAP = /\{(\w+)\}/g;

/** The sentences of a source, and which of them are counted. */
export function sentencesOf(source, fileName) {
  const found = new Map();
  inOtherWords(source, fileName, (text, isCounted = false) => {
    found.set(text, isCounted || found.get(text) === true);
    return null;
  });
  return found;
}

/** The source with `other(sentence)` in place of each sentence; null leaves it. Throws where a translation's values are not its sentence's. */
export function inOtherWords(source, fileName, other) {
  const file = ts.createSourceFile(fileName, source, ts.ScriptTarget.Latest, true, fileName.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS);
  const render = (node) => replaced(node) ?? verbatim(node);

  function verbatim(node) {
    let out = "";
    let at = startOf(node);
    ts.forEachChild(node, (child) => {
      if (child.kind === ts.SyntaxKind.EndOfFileToken) return;
      out += source.slice(at, startOf(child)) + render(child);
      at = child.end;
    });
    return out + source.slice(at, node.end);
  }

  const startOf = (node) => (node.kind === ts.SyntaxKind.SourceFile ? 0 : ts.isJsxText(node) ? node.pos : node.getStart(file));

  function replaced(node) {
    if (isCount(node)) return ofCount(node);
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return ofText(node);
    if (ts.isTemplateExpression(node)) return ofTemplate(node);
    if (ts.isJsxElement(node) || ts.isJsxFragment(node)) return ofChildren(node);
    return null;
  }

  function ofCount(node) {
    const [number, thing] = node.arguments;
    const forms = other(thing.text, true);
    return forms && `counted(${render(number)}, ${JSON.stringify(forms)})`;
  }

  function ofText(node) {
    if (!isSentence(node.text, placeOf(node))) return null;
    const text = other(node.text);
    if (text == null) return null;
    const given = JSON.stringify(text);
    return ts.isJsxAttribute(node.parent) ? `{${given}}` : given;
  }

  function ofTemplate(node) {
    const names = namesOf();
    const gaps = new Map(node.templateSpans.map((span) => [names(span.expression), span.expression]));
    const texts = textsOf(node);
    const message = texts.map((text, i) => (i === 0 ? text : `{${[...gaps.keys()][i - 1]}}${text}`)).join("");
    if (!isSentence(texts.join(""), placeOf(node), texts)) return null;
    const text = other(message);
    if (text == null) return null;
    const pieces = filled(text, message, gaps).map((piece) => (typeof piece === "string" ? piece.replace(/[\\`$]/g, "\\$&") : `\${${render(piece)}}`));
    return `\`${pieces.join("")}\``;
  }

  function ofChildren(node) {
    const children = node.children.filter((child) => !ts.isJsxText(child) || cleaned(child) !== "").filter((child) => !(ts.isJsxExpression(child) && !child.expression));
    if (!children.some((child) => ts.isJsxText(child) && LETTERS.test(cleaned(child)))) return null;
    const names = namesOf();
    const gaps = new Map();
    const message = children.map((child) => {
      if (ts.isJsxText(child)) return cleaned(child);
      const literal = ts.isJsxExpression(child) && ts.isStringLiteral(child.expression) ? child.expression.text : null;
      if (literal !== null && literal.trim() === "") return literal;
      const name = names(ts.isJsxExpression(child) ? child.expression : child);
      gaps.set(name, child);
      return `{${name}}`;
    }).join("");
    const text = other(message);
    if (text == null) return null;
    const inside = filled(text, message, gaps).map((piece) => (typeof piece === "string" ? `{${JSON.stringify(piece)}}` : render(piece)));
    const [open, close] = ts.isJsxElement(node) ? [node.openingElement, node.closingElement] : [node.openingFragment, node.closingFragment];
    return render(open) + inside.join("") + source.slice(close.getStart(file), close.end);
  }

  return render(file);
}

/** The pieces of a translation: its words, and what stands in each gap. */
function filled(text, message, gaps) {
  const named = [...text.matchAll(GAP)].map((found) => found[1]);
  if ([...named].sort().join() !== [...gaps.keys()].sort().join())
    throw new Error(`“${text}” has the values ${named.join(", ") || "none"}; its sentence “${message}” has ${[...gaps.keys()].join(", ")}: name each of them once in the .po file`);
  return text.split(GAP).map((piece, i) => (i % 2 ? gaps.get(piece) : piece)).filter((piece) => piece !== "");
}

/** The words of a template, between its values. */
const textsOf = (template) => [template.head.text, ...template.templateSpans.map((span) => span.literal.text)];

/** Names of gaps, each once in a sentence. */
function namesOf() {
  const taken = new Map();
  return (node) => {
    const base = gapName(node);
    const count = (taken.get(base) ?? 0) + 1;
    taken.set(base, count);
    return count === 1 ? base : `${base}_${count}`;
  };
}

function gapName(node) {
  if (ts.isJsxElement(node)) return tagName(node.openingElement);
  if (ts.isJsxSelfClosingElement(node)) return tagName(node);
  if (ts.isIdentifier(node)) return node.text;
  if (ts.isPropertyAccessExpression(node)) return node.name.text;
  if (ts.isNonNullExpression(node) || ts.isParenthesizedExpression(node) || ts.isElementAccessExpression(node)) return gapName(node.expression);
  if (isCount(node)) return "counted";
  if (ts.isCallExpression(node)) return node.arguments[0] && isNamed(node.arguments[0]) ? gapName(node.arguments[0]) : gapName(node.expression);
  if (ts.isBinaryExpression(node)) return isNamed(node.left) ? gapName(node.left) : "value";
  if (ts.isConditionalExpression(node)) return "choice";
  return "value";
}

/** Something counted, whose forms are a language's own. */
const isCount = (node) => ts.isCallExpression(node) && ts.isIdentifier(node.expression) && node.expression.text === "counted" && node.arguments.length === 2 && ts.isStringLiteral(node.arguments[1]);

const isNamed = (node) => ts.isIdentifier(node) || ts.isPropertyAccessExpression(node) || ts.isNonNullExpression(node) || ts.isCallExpression(node);
const tagName = (opening) => opening.tagName.getText().split(".").at(-1).toLowerCase();

/** Text between tags as it is shown: lines joined, the space at their ends gone. */
function cleaned(node) {
  const lines = node.text.split(/\r\n|\n|\r/);
  return lines
    .map((line, i) => (i === 0 ? line : line.replace(/^[ \t]+/, "")))
    .map((line, i) => (i === lines.length - 1 ? line : line.replace(/[ \t]+$/, "")))
    .filter((line) => line !== "")
    .join(" ")
    .replace(/&\w+;/g, (entity) => ENTITIES[entity] ?? entity);
}

function isSentence(text, place, texts = [text]) {
  if (place === "code" || !LETTERS.test(text.replace(GAP, "")) || /\n|^\{"|^"/.test(text)) return false;
  if (place === "words") return true;
  return /\p{L}[\p{L}’',;:.!?…”)]* +[“(]?\p{L}|\p{L} …|(^|\0) \(\p{L}{2,}|(^|\0) \p{L}{2,}|\p{L}{2,}[,;:]? (\0|$)/u.test(texts.join("\u0000")) && !/^[\w-]+(: |\()|var\(|(^|[\s\d])px\b|\d(fr|em)\b|^\d+(\.\d+)?s /.test(text);
}

/** What is asked for where a text stands: "words", "code", or neither is known. */
function placeOf(node) {
  for (let [inner, outer] = [node, node.parent]; outer; [inner, outer] = [outer, outer.parent]) {
    if (ts.isImportDeclaration(outer) || ts.isExportDeclaration(outer) || ts.isLiteralTypeNode(outer) || ts.isCaseClause(outer) || ts.isTemplateLiteralTypeNode(outer) || ts.isImportTypeNode(outer)) return "code";
    if (ts.isTemplateSpan(outer)) {
      const texts = textsOf(outer.parent);
      const place = placeOf(outer.parent);
      return place === "code" || texts.some((text) => text.includes("/")) ? "code" : ts.isConditionalExpression(outer.expression) && texts.some((text) => /^ | $/.test(text)) ? "words" : "free";
    }
    if (ts.isElementAccessExpression(outer) && outer.argumentExpression === inner) return "code";
    if (ts.isPropertyAssignment(outer)) {
      if (outer.name === inner) return "code";
      const name = outer.name.getText().replace(/"/g, "");
      if (CODE_PROPERTIES.has(name)) return "code";
      if (WORD_NAMES.has(name)) return "words";
      continue;
    }
    if (ts.isJsxAttribute(outer)) {
      const name = outer.name.getText();
      return CODE_ATTRIBUTES.has(name) || name.startsWith("data-") ? "code" : WORD_NAMES.has(name) ? "words" : "free";
    }
    if (ts.isJsxExpression(outer) && (ts.isJsxElement(outer.parent) || ts.isJsxFragment(outer.parent))) return "words";
    if (ts.isBinaryExpression(outer) && /^([!=]==?|<|>|in)$/.test(outer.operatorToken.getText())) return "code";
    if (ts.isConditionalExpression(outer) && outer.condition === inner) return "code";
    if (ts.isBinaryExpression(outer) && outer.operatorToken.getText() === "&&" && outer.left === inner) return "code";
    if ((ts.isCallExpression(outer) || ts.isNewExpression(outer)) && outer.expression !== inner) {
      const called = ts.isPropertyAccessExpression(outer.expression) ? outer.expression.name.text : outer.expression.getText();
      if (CODE_CALLS.has(called)) return "code";
      if (called === "join") continue;
      return inCode(outer) ? "code" : "free";
    }
    if ((ts.isBindingElement(outer) || ts.isParameter(outer)) && outer.initializer === inner) return WORD_NAMES.has(outer.name.getText()) ? "words" : "free";
    if (ts.isFunctionLike(outer) || ts.isVariableDeclaration(outer) || ts.isStatement(outer)) {
      if (ts.isVariableDeclaration(outer) && /^[A-Z_]*(WORDS|TITLES|NAMES)$/.test(outer.name.getText())) return "words";
      return inCode(outer) ? "code" : "free";
    }
  }
  return "free";
}

/** Whether what stands about it is a style or a class. */
function inCode(node) {
  for (let outer = node.parent; outer; outer = outer.parent) {
    if (ts.isJsxAttribute(outer)) return CODE_ATTRIBUTES.has(outer.name.getText());
    if (ts.isPropertyAssignment(outer) && CODE_PROPERTIES.has(outer.name.getText())) return true;
  }
  return false;
}
