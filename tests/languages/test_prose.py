"""Which texts are sentences, and a source with others in their place."""

from __future__ import annotations

import ast

import pytest

from drylamp.languages import LanguageProblem, folder_of
from drylamp.languages.loader import in_other_words
from drylamp.languages.prose import Message, Prose


def sentences(source: str) -> list[str]:
    heard: list[str] = []

    def hear(message: Message) -> None:
        heard.append(message.text)

    Prose(hear).visit(ast.parse(source))
    return heard


def run(source: str, words: dict[str, str], **names: object) -> dict[str, object]:
    exec(compile(in_other_words(source, words, "<test>"), "<test>", "exec"), names)
    return names


@pytest.mark.parametrize(
    ("source", "heard"),
    [
        ('said = "It boils dry."', ["It boils dry."]),
        ('f"Opens at {clock(hour)}, shuts at {other.hour}"', ["Opens at {hour}, shuts at {hour_2}"]),
        ('Field(title="Price", description="New; 0 for salvage")', ["Price", "New; 0 for salvage"]),
        ('Account("lost by the glass", "glass", "glass")', ["lost by the glass", "glass"]),
        ("f\"it is {'open' if wide else 'shut'}\"", ["open", "shut", "it is {value}"]),
        ('for turn, word in ((10, "steeper"), (-10, "flatter")): pass', ["steeper", "flatter"]),
        ('def title(self):\n    return "bowl" if thick else "bag"', ["bowl", "bag"]),
    ],
)
def test_a_sentence_is_heard_wherever_it_stands(source: str, heard: list[str]):
    assert sorted(dict.fromkeys(sentences(source))) == sorted(heard)


@pytest.mark.parametrize(
    "source",
    [
        '"""What a developer reads."""',
        'Kind = Literal["all in", "one by one"]',
        'db.execute("SELECT name FROM build WHERE id = ?")',
        're.compile(r"(?P<hour>\\d\\d) o\'clock")',
        'node = Node("tray", 3.0)',
        'response.headers["Cache-Control"] = "public, max-age=1"',
        'if "invalid JSON" in message: pass',
        'part = "cover"',
        'f"{first}, {second}"',
        'style = "fill:none; stroke:red"',
    ],
)
def test_code_is_no_sentence(source: str):
    assert sentences(source) == []


def test_values_go_where_a_language_wants_them():
    found = run(
        'said = f"{count} of {whole:.1f} boards"',
        {"{count} of {whole} boards": "von {whole} Brettern {count}"},
        count=3,
        whole=4.0,
    )
    assert found["said"] == "von 4.0 Brettern 3"


def test_what_has_no_translation_stays():
    assert run('said = "It boils dry."', {})["said"] == "It boils dry."


@pytest.mark.parametrize("bad", ["ohne", "{count} {count}", "{count} {number}"])
def test_a_translation_that_loses_a_value_is_told(bad: str):
    with pytest.raises(LanguageProblem, match="name each of them once"):
        in_other_words('f"{count} boards"', {"{count} boards": bad}, "<test>")


def test_the_same_name_is_the_same_where_a_table_is_asked():
    source = 'table = {"in the shade": 1}\nfound = table["in the shade"]'
    assert run(source, {"in the shade": "im Schatten"})["found"] == 1


def test_names_of_days_and_months_are_the_languages(monkeypatch: pytest.MonkeyPatch):
    from datetime import date

    from drylamp.languages import values

    monkeypatch.setattr(values, "in_words", {"June": "Juni", "Thu": "Do"}.__getitem__)
    assert run('said = f"on {day:%a %d %B}"', {}, day=date(2025, 6, 12))["said"] == "on Do 12 Juni"


def test_a_name_of_code_in_a_sentence_is_said_in_its_words(monkeypatch: pytest.MonkeyPatch):
    from drylamp.languages import values

    monkeypatch.setattr(values, "in_words", lambda text: {"hazy": "diesig"}.get(text, text))
    assert run('said = f"a {sky} sky"', {"a {sky} sky": "Himmel: {sky}"}, sky="hazy")["said"] == "Himmel: diesig"


def test_an_unknown_language_is_told_with_what_there_is():
    with pytest.raises(LanguageProblem, match="'tlh' is no language that is here; known: en"):
        folder_of("tlh")
    assert folder_of("en") is None
