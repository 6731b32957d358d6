"""A source compiled with the sentences of a language in it, so that nothing has to be looked up while it runs."""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Mapping
from importlib.abc import MetaPathFinder
from importlib.machinery import ModuleSpec, PathFinder, SourceFileLoader
from types import CodeType, ModuleType
from typing import Any

from drylamp import COMPILED
from drylamp.languages import LanguageProblem
from drylamp.languages.prose import Message, Prose, thing_counted

LEFT = (
    "drylamp.languages",
    "drylamp.demo",
    "drylamp.cli",
    "drylamp.core.units",
    "drylamp.core.wish.sentence",
    *(f"drylamp.core.{name.replace('/', '.')}" for name in COMPILED),
)
"""What speaks no language: a person's own words, units, the grammar in which a wish is read, and code that is compiled further and kept by its file."""
NAMED = re.compile(r"%[aAbB]")
GAP = re.compile(r"\{(\w+)\}")


def in_other_words(source: str, words: Mapping[str, str], path: str) -> ast.Module:
    """A source's tree with the sentences of a catalogue in place of its own.

    Raises LanguageProblem where a translation names a value that its sentence does not have, or leaves one out.
    """

    def other(message: Message) -> ast.expr | None:
        text = words.get(message.text)
        return None if text is None else filled(text, message)

    tree: ast.Module = Dates().visit(Prose(other).visit(Counts().visit(ast.parse(source, path))))
    return ast.fix_missing_locations(tree)


class Counts(ast.NodeTransformer):
    """Has the form of what is counted chosen by its number: English needs an s, others have rules of their own."""

    def visit_Call(self, node: ast.Call) -> ast.AST:
        """Of ``counted``; its thing is no sentence from then on."""
        self.generic_visit(node)
        thing = thing_counted(node)
        if thing is None:
            return node
        return ast.copy_location(_asked("counted", node.args[0], ast.Constant(thing.encode())), node)


class Dates(ast.NodeTransformer):
    """Has the names of days and months looked up where a date is written: Python's own are English."""

    def visit_FormattedValue(self, node: ast.FormattedValue) -> ast.AST:
        """Of a value that is written with such a name."""
        self.generic_visit(node)
        spec = node.format_spec
        if isinstance(spec, ast.JoinedStr) and any(
            isinstance(p, ast.Constant) and NAMED.search(str(p.value)) for p in spec.values
        ):
            return ast.copy_location(ast.FormattedValue(_asked("dated", node.value, spec), -1, None), node)
        return node


def _worded(gap: ast.expr) -> ast.expr:
    """What stands in a sentence's gap; a name that code goes by may be a word, too, and is looked up while it runs."""
    if (
        isinstance(gap, ast.FormattedValue)
        and gap.format_spec is None
        and gap.conversion == -1
        and isinstance(gap.value, ast.Name | ast.Attribute | ast.Subscript)
    ):
        return ast.FormattedValue(_asked("worded", gap.value), -1, None)
    return gap


def _asked(function: str, *given: ast.expr) -> ast.expr:
    """A call of one of ``values``' functions, whatever names the source itself has."""
    package = ast.Call(ast.Name("__import__", ast.Load()), [ast.Constant("drylamp.languages.values")], [])
    room = ast.Attribute(ast.Attribute(package, "languages", ast.Load()), "values", ast.Load())
    return ast.Call(ast.Attribute(room, function, ast.Load()), list(given), [])


def filled(text: str, message: Message) -> ast.expr:
    """A translation with its sentence's values where it wants them."""
    if not message.gaps:
        return ast.Constant(text)
    named = GAP.findall(text)
    if sorted(named) != sorted(message.gaps):
        raise LanguageProblem(
            f"“{text}” has the values {', '.join(named) or 'none'}; its sentence “{message.text}” has {', '.join(message.gaps)}: "
            "name each of them once in the .po file"
        )
    pieces = GAP.split(text)
    return ast.JoinedStr(
        [_worded(message.gaps[piece]) if i % 2 else ast.Constant(piece) for i, piece in enumerate(pieces) if piece]
    )


class _Loader(SourceFileLoader):
    words: Mapping[str, str]

    def get_code(self, fullname: str) -> CodeType:
        """Compiled anew: what Python keeps beside a source is English."""
        return self.source_to_code(self.get_data(self.path), self.path)

    def source_to_code(self, data: Any, path: Any, *, _optimize: int = -1) -> CodeType:  # type: ignore[override]
        """In other words."""
        return compile(
            in_other_words(bytes(data).decode(), self.words, str(path)),
            path,
            "exec",
            dont_inherit=True,
            optimize=_optimize,
        )


class _Finder(MetaPathFinder):
    def __init__(self, words: Mapping[str, Mapping[str, str]]) -> None:
        self._words = words

    def find_spec(self, fullname: str, path: Any, target: ModuleType | None = None) -> ModuleSpec | None:
        """Of the program's own modules."""
        if not fullname.startswith("drylamp.") or fullname.startswith(LEFT):
            return None
        spec = PathFinder.find_spec(fullname, path, target)
        if spec is not None and isinstance(spec.loader, SourceFileLoader):
            loader = _Loader(spec.loader.name, spec.loader.path)
            loader.words = self._words.get(source_of(spec), {})
            spec.loader = loader
        return spec


def source_of(spec: ModuleSpec) -> str:
    """A module's file as a catalogue names it."""
    return f"src/{spec.name.replace('.', '/')}{'/__init__' if spec.submodule_search_locations is not None else ''}.py"


def lay_over(words: Mapping[str, Mapping[str, str]]) -> None:
    """Load the program's modules in these words, by source, from now on; what is loaded already stays as it is."""
    sys.meta_path.insert(0, _Finder(words))
