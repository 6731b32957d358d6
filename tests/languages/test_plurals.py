"""A number of things takes the form that its language has for it."""

from __future__ import annotations

import ast
import json
import subprocess
from pathlib import Path

import polib
import pytest

from drylamp import languages
from drylamp.languages.catalogue import plurals
from drylamp.languages.loader import in_other_words
from drylamp.languages.values import counted

ROOT = Path(__file__).parents[2]
THREE = "nplurals=3; plural=(n%10==1 && n%100!=11 ? 0 : n%10>=2 && n%10<=4 && (n%100<10 || n%100>=20) ? 1 : 2);"
"""A rule with three forms, as gettext's manual gives it for several Slavic languages."""
FORMS = {1: "odin", 2: "dva", 5: "pjat", 11: "pjat", 21: "odin", 22: "dva", 0: "pjat"}


@pytest.fixture
def spoken(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    file = polib.POFile()
    file.metadata = {"Language": "xx", "Content-Type": "text/plain; charset=UTF-8", "Plural-Forms": THREE}
    file.append(polib.POEntry(msgid="tray", msgid_plural="trays", msgstr_plural={0: "odin", 1: "dva", 2: "pjat"}, occurrences=[("a.py", "")]))  # fmt: skip
    file.append(polib.POEntry(msgid="lid", msgstr="krychka"))
    file.save(str(tmp_path / "words.po"))
    monkeypatch.setenv(languages.LANGUAGE, str(tmp_path))
    return tmp_path


@pytest.mark.usefixtures("spoken")
@pytest.mark.parametrize("number", FORMS)
def test_the_form_follows_the_rule_at_the_files_head(number: int):
    assert counted(number, b"tray") == f"{number} {FORMS[number]}"


@pytest.mark.usefixtures("spoken")
def test_a_thing_without_forms_is_said_as_it_is_and_one_that_is_not_translated_in_english():
    assert counted(3, b"lid") == "3 krychka"
    assert [counted(n, b"hinge") for n in (1, 3)] == ["1 hinge", "3 hinges"]


def test_a_file_without_a_rule_counts_as_english_does(tmp_path: Path):
    polib.POFile().save(str(tmp_path / "none.po"))
    rule, _ = plurals(tmp_path / "none.po")
    assert [rule(n) for n in (0, 1, 2)] == [1, 0, 1]


@pytest.mark.usefixtures("spoken")
def test_a_source_says_it_so_within_its_sentence():
    source = "def counted(number, thing): return 'never'\ndef said(trays): return f'Put {counted(trays, \"tray\")} in the sun.'"
    tree = in_other_words(source, {"Put {counted} in the sun.": "Na solnce: {counted}.", "tray": "odin"}, "a.py")
    made: dict[str, object] = {}
    exec(compile(tree, "a.py", "exec"), made)
    assert made["said"](22) == "Na solnce: 22 dva."  # type: ignore[operator]
    assert "never" not in ast.unparse(tree).split("said")[1]


def test_pages_are_built_with_the_rule_and_all_forms(spoken: Path):
    asked = f"""
    import {{ words }} from "./words/plugin.mjs";
    const plugin = words({json.dumps(str(spoken / "words.po"))});
    const rule = eval(plugin.config().define.__PLURAL__);
    const {{ code }} = plugin.transform('const said = counted(n, "tray");', "/x/src/a.ts");
    process.stdout.write(JSON.stringify([{json.dumps(list(FORMS))}.map(rule), code]));
    """
    done = subprocess.run(["node", "--input-type=module", "-e", asked], cwd=ROOT / "frontend", capture_output=True, text=True, check=True)  # fmt: skip
    forms, code = json.loads(done.stdout)
    assert [["odin", "dva", "pjat"][form] for form in forms] == list(FORMS.values())
    assert code == 'const said = counted(n, ["odin","dva","pjat"]);'


def test_a_rule_that_is_more_than_sums_is_refused(tmp_path: Path):
    file = polib.POFile()
    file.metadata = {"Language": "xx", "Plural-Forms": "nplurals=2; plural=process.exit(1);"}
    file.save(str(tmp_path / "bad.po"))
    asked = f'import {{ words }} from "./words/plugin.mjs"; words({json.dumps(str(tmp_path / "bad.po"))}).config();'
    done = subprocess.run(["node", "--input-type=module", "-e", asked], cwd=ROOT / "frontend", capture_output=True, text=True, check=False)  # fmt: skip
    assert done.returncode == 1
    assert "is no rule of plurals" in done.stderr
