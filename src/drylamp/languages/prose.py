"""Which texts of a Python source are sentences that a person reads, and how one with values in it is written down.

There is no mark on a sentence: what has a space between letters or begins as a sentence does is one, wherever it stands, and
a word alone is one where words are asked for. Names that code goes by (a ``Literal``'s, a column's, SQL, an address) are none.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import TypeVar

WORDY_KEYWORDS = {
    "title", "label", "short", "opening", "word", "said", "description", "parts", "notes", "lit", "drawn", "empty", "one", "many", "thing", "options", "planned", "wish", "grade", "columns",
}  # fmt: skip
"""Given by these names a word alone is prose, and so are the values of a mapping."""
WORDY_NAMES = re.compile(r"(WORDS|TITLES|SAID|STATES|THROUGH|INSTEAD|LOST|_NAMES)$|^(verdict|held|got)$")
"""Tables so named have words as values."""
CODE_NAMES = re.compile(r"(COLUMNS(_\d)?|PATTERNS?|_SQL|BASE_NAMES|(TIME|ROLE|COUNT)_WORDS)$")
"""Tables so named have what other programs write."""
PROTOCOL = {"Authorization", "Host", "Lax", "Location"}
WORDY_PLACES = {
    "Account": (0, 1, 3), "Doubtful": (1, 3, 4, 5), "counted": (1,), "_Group": (1,), "FormRow": (0,), "Change": (0,), "Measure": (1,), "Fault": (2,), "Node": (2,), "layer_piece": (1,), "mirror_piece": (1,), "Option": (0,), "Stand": (0,),
}  # fmt: skip
"""Calls that take words, and at which places."""
CODE_CALLS = {
    "compile", "execute", "executemany", "executescript", "cast", "getattr", "setattr", "hasattr", "TypeVar", "NewType", "ContextVar", "strftime",
    "strptime", "startswith", "endswith", "split", "partition", "rpartition", "getLogger", "get", "option", "argument", "TypeAdapter", "fullmatch",
    "match", "search", "sub", "findall", "finditer", "sql", "field_validator", "model_validator", "blueprint", "require", "quick_sum",
    "removeprefix", "removesuffix", "encode", "join_path", "njit", "guvectorize", "add_url_rule",
}  # fmt: skip
"""What these are given is code, save what stands in a call within it and what is given by a wordy name."""
SENTENCE_CALLS = {"quick_sum"}
"""Of those, the ones whose first text alone is code."""
SQL = re.compile(
    r"^\s*(SELECT|INSERT|UPDATE|DELETE|CREATE|PRAGMA|BEGIN|COMMIT|ROLLBACK|WITH|ALTER|DROP|VACUUM|ORDER|WHERE|AND|FROM|LIMIT|REPLACE|SAVEPOINT|RELEASE)\b[^a-z]*[a-z_*(]?"
)
SENTENCE = re.compile(r"[^\W\d_]{2,}")
CAPITAL = re.compile(r"[A-Z][a-z]{2,}([ -][a-z]+)*[.:,…]?")
MARKUP = re.compile(
    r" = '|^ signed$|\|\||\bIS (NOT )?NULL|^EXISTS \(|^tuple\[|\(\?|\\[dswb]|\[\^|\|\[|^\s*[<{@]|[{}]\s*$|^[a-z-]+: ?[\w#%.-]+;|^[a-z]+/[a-z]|^(font|text|stroke|fill|max-age|default-src|no-cache)[-=:;]|=\"|^--|^%|\bHTTP/"
)


@dataclass(frozen=True)
class Message:
    """A sentence: its English with named gaps, and what stands in each gap."""

    text: str
    gaps: dict[str, ast.expr]


N = TypeVar("N", bound=ast.AST)


class Prose(ast.NodeTransformer):
    """Goes over a source and puts ``other(message)`` in place of each sentence; None leaves it."""

    def __init__(self, other: Callable[[Message], ast.expr | None]) -> None:
        self._other = other
        self._wordy = False
        self._gives = False

    @contextmanager
    def _as(self, wordy: bool) -> Iterator[None]:
        before, self._wordy = self._wordy, wordy
        try:
            yield
        finally:
            self._wordy = before

    def _go(self, node: N, wordy: bool = False) -> N:
        with self._as(wordy):
            return self.visit(node)  # type: ignore[no-any-return]

    def visit_Expr(self, node: ast.Expr) -> ast.AST:
        """Leave what is said to developers."""
        return node if isinstance(node.value, ast.Constant) else self.generic_visit(node)

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        """What is named for words gives words."""
        outer, self._gives = self._gives, node.name.strip("_") in WORDY_KEYWORDS
        self.generic_visit(node)
        self._gives = outer
        return node

    def visit_Return(self, node: ast.Return) -> ast.AST:
        """Of such a function."""
        if node.value is not None:
            node.value = self._go(node.value, self._gives)
        return node

    def visit_Assign(self, node: ast.Assign) -> ast.AST:
        """A table's name tells whether words stand in it."""
        if CODE_NAMES.search(ast.unparse(node.targets[0])) or "headers" in ast.unparse(node.targets[0]):
            return node
        node.value = self._go(node.value, _is_wordy(node.targets[0]))
        return node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        """The same with a type, in which a field's title may stand."""
        if CODE_NAMES.search(ast.unparse(node.target)):
            return node
        if node.value is not None:
            node.value = self._go(node.value, _is_wordy(node.target))
        node.annotation = self._go(node.annotation)
        return node

    def visit_Subscript(self, node: ast.Subscript) -> ast.AST:
        """A key is what it is where the table is made; what a type lists is none."""
        node.value = self._go(node.value)
        if _name_of(node.value) != "Literal":
            node.slice = self._go(node.slice)
        return node

    def visit_Call(self, node: ast.Call) -> ast.AST:
        """Words are told from code by who takes them."""
        name = _name_of(node.func)
        node.func = self._go(node.func)
        places = WORDY_PLACES.get(name, ())
        code = name in CODE_CALLS
        node.args = [
            arg if code and _is_plain(arg) and (i == 0 or name not in SENTENCE_CALLS) else self._go(arg, i in places)
            for i, arg in enumerate(node.args)
        ]
        for word in node.keywords:
            if not (code and _is_plain(word.value)) or word.arg in WORDY_KEYWORDS:
                word.value = self._go(word.value, word.arg in WORDY_KEYWORDS)
        return node

    def visit_Dict(self, node: ast.Dict) -> ast.AST:
        """Keys are words only where they are sentences."""
        node.keys = [key if key is None else self._go(key) for key in node.keys]
        node.values = [self.visit(value) for value in node.values]
        return node

    def visit_IfExp(self, node: ast.IfExp) -> ast.AST:
        """What is asked is no word, what is chosen may be."""
        node.test = self._go(node.test)
        node.body, node.orelse = self.visit(node.body), self.visit(node.orelse)
        return node

    def visit_For(self, node: ast.For) -> ast.AST:
        """What goes by the name of words is words, in each row of a table that is gone through."""
        names = node.target.elts if isinstance(node.target, ast.Tuple) else [node.target]
        for row in node.iter.elts if isinstance(node.iter, ast.Tuple | ast.List) else ():
            if isinstance(row, ast.Tuple) and len(row.elts) == len(names):
                row.elts = [self._go(one, _is_wordy(name)) for one, name in zip(row.elts, names, strict=True)]
        node.iter = self._go(node.iter, len(names) == 1 and _is_wordy(names[0]))
        node.body, node.orelse = [self.visit(one) for one in node.body], [self.visit(one) for one in node.orelse]
        return node

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        """What is compared is a word only where it is a sentence; what is looked for in a text is none."""
        if isinstance(node.ops[0], ast.In | ast.NotIn) and isinstance(node.left, ast.Constant):
            node.comparators = [self._go(one) for one in node.comparators]
            return node
        with self._as(False):
            return self.generic_visit(node)

    def visit_JoinedStr(self, node: ast.JoinedStr) -> ast.AST:
        """A sentence with values in it."""
        message = _message(node)
        said = is_sentence(re.sub(r"\{\w+\}", "", message.text), self._wordy)
        for part in node.values:
            if isinstance(part, ast.FormattedValue):
                part.value = self._go(part.value, said and isinstance(part.value, ast.IfExp))
        return self._said(node, message) if said else node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        """A sentence as it is, or a word where words are wanted."""
        if not isinstance(node.value, str) or not is_sentence(node.value, self._wordy):
            return node
        return self._said(node, Message(node.value, {}))

    def _said(self, node: ast.expr, message: Message) -> ast.AST:
        other = self._other(message)
        return node if other is None else ast.copy_location(other, node)


def is_sentence(text: str, wordy: bool) -> bool:
    """Whether a person reads this text."""
    if text in PROTOCOL or not SENTENCE.search(text) or MARKUP.search(text) or SQL.search(text):
        return False
    return wordy or " " in text.strip() or bool(CAPITAL.fullmatch(text)) or text != text.strip()


def _is_plain(node: ast.expr) -> bool:
    return isinstance(node, ast.Constant | ast.JoinedStr)


def _is_wordy(target: ast.expr) -> bool:
    name = ast.unparse(target)
    return name in WORDY_KEYWORDS or bool(WORDY_NAMES.search(name))


def _name_of(func: ast.expr) -> str:
    return func.attr if isinstance(func, ast.Attribute) else func.id if isinstance(func, ast.Name) else ""


def _message(node: ast.JoinedStr) -> Message:
    """An f-string with its values by short names, the same in every version of Python."""
    text: list[str] = []
    gaps: dict[str, ast.expr] = {}
    for part in node.values:
        if isinstance(part, ast.Constant):
            text.append(str(part.value))
            continue
        plain = base = gap_name(part.value) if isinstance(part, ast.FormattedValue) else "value"
        count = 1
        while plain in gaps:
            count += 1
            plain = f"{base}_{count}"
        gaps[plain] = part
        text.append(f"{{{plain}}}")
    return Message("".join(text), gaps)


def thing_counted(node: ast.AST) -> str | None:
    """What a call counts, whose forms are a language's own; none where it is no such call."""
    match node:
        case ast.Call(func=ast.Name("counted"), args=[_, ast.Constant(str(thing))]):
            return thing
    return None


def gap_name(value: ast.expr) -> str:
    """A short name for what stands in a gap."""
    match value:
        case ast.Name(id=name) | ast.Attribute(attr=name):
            return name.strip("_")
        case ast.Call(func=func, args=[ast.Name() | ast.Attribute() | ast.Call() as first, *_]):
            return gap_name(first) if _name_of(func) != "counted" else "counted"
        case ast.Call(func=func):
            return _name_of(func).strip("_") or "value"
        case ast.BinOp(left=left):
            return gap_name(left)
        case ast.Subscript(value=inside):
            return gap_name(inside)
    return "value"
