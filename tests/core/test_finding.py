"""Finding things by what somebody types of them."""

import pytest

from drylamp.core.finding import best, score, words_of


@pytest.mark.parametrize(
    ("query", "title", "more", "found"),
    [
        ("fig", "Fig dryer", "", True), ("dry fig", "Fig dryer", "", True), ("figs", "Fig dryer", "", True), ("cover", "Cover", "part of oven", True),
        ("chesnut", "Chestnut kiln", "", True), ("kiln", "Chestnut kiln", "", True), ("kl", "Chestnut kiln", "", False), ("cafe", "Café", "", True),
        ("oven cover", "Cover", "part of Hatbox oven", True), ("oven chimney", "Cover", "part of Hatbox oven", False), ("", "Cover", "", False), ("…", "Cover", "", False),
    ],
)  # fmt: skip
def test_every_word_begins_one_of_theirs_or_is_nearly_one(query, title, more, found):
    assert (score(query, title, more) > 0.0) is found


def test_the_likeliest_comes_first_and_those_alike_stay_in_their_order():
    things = [("Lid of the oven", ""), ("Oven", ""), ("Card box", "oven"), ("Ovens compared", "")]
    assert [title for title, _ in best("oven", things, lambda thing: thing, 3)] == [
        "Oven",
        "Lid of the oven",
        "Ovens compared",
    ]


def test_words_are_without_accents_and_case():
    assert words_of("Écrou, Nº 7") == ["ecrou", "no", "7"]
