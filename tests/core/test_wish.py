"""Wishes in a sentence: thirty that no rule was written from, five of them nonsense; what was not understood is said, never guessed."""

from __future__ import annotations

import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.text import plain
from drylamp.core.wish.goods import by_name, offers, singular, verbs
from drylamp.core.wish.sentence import MOST_LETTERS, number_of, read_wish, said

HELD_BACK: list[tuple[str, str, float, str, list[int]]] = [
    ("I would like to dry 5 kg of tomatoes in August", "tomato", 5.0, "once", [8]),
    ("drying apricots, about 3 kg a week, from June to July", "apricot", 3.0, "week", [6, 7]),
    ("bake two loaves of bread every week in summer", "tin-loaf", 1.8, "week", [6, 7, 8]),
    ("cook rice for six people", "rice-and-water", 1.5, "once", []),
    ("we want to boil tea for 4 people at the allotment in May", "tea", 0.8, "once", [5]),
    ("melt old comb, 4 kg a month", "old-comb-wax", 4.0, "month", []),
    ("render 2 kg of cappings in July up to 50 euros", "cappings-wax", 2.0, "once", [7]),
    ("warm water for two showers a day from April to October", "warm-water", 50.0, "day", [4, 5, 6, 7, 8, 9, 10]),
    ("a bath of warm water every week", "warm-water", 120.0, "week", []),
    ("heat the pool, 12000 litres, in May", "pool", 12000.0, "once", [5]),
    ("warm our tub to 37 °C in september", "tub", 700.0, "once", [9]),
    ("season 300 board-feet of walnut planks", "black-walnut-boards", 0.708, "once", []),
    ("dry 1 m³ of chestnut boards in spring", "sweet-chestnut-boards", 1.0, "once", [3, 4, 5]),
    ("dry half a kilo of mint", "mint", 3.0, "once", []),
    ("dry 500 g of mint a week", "mint", 0.5, "week", []),
    ("dry mushrooms in october, 2 kg", "mushroom", 2.0, "once", [10]),
    ("roast nuts", "roast-nuts", 0.0, "once", []),
    ("dry 10 lb of pears in september", "pear", 4.536, "once", [9]),
    ("melt dark chocolate", "dark-chocolate", 0.04, "once", []),
    ("cook 2 kg of bean pot a day in June and July", "bean-pot", 2.0, "day", [6, 7]),
    ("simmer jam in august", "thick-sauce", 0.0, "once", [8]),
    ("dry courgettes and have 3 windows 80 x 60 cm", "courgette", 3.0, "once", []),
    ("dry plums, 6 kg, I have a pane of 1.2 by 0.8 m and 8 m of black pipe, up to $120", "plum", 6.0, "once", []),
    ("cook lentil soup for 10 guests, a sunday of work", "lentil-soup", 4.0, "once", []),
    ("dry figs May-August", "fig", 3.0, "once", [5, 6, 7, 8]),
    ("shower every day in winter", "warm-water", 75.0, "day", [12, 1, 2]),
]
NONSENSE = [
    "knit me a jumper by Tuesday", "dry 4 kg of water", "melt three elephants", "", "cook 2 kg of walnut planks",
]  # fmt: skip


@pytest.mark.parametrize(("text", "good", "much", "every", "months"), HELD_BACK)
def test_a_held_back_wish_is_understood(text: str, good: str, much: float, every: str, months: list[int]):
    wish = read_wish(text)
    assert wish.good == good
    assert wish.every == every
    assert wish.months == months
    if much:
        assert wish.amount == pytest.approx(much, rel=1e-3)


@pytest.mark.parametrize("text", NONSENSE)
def test_nonsense_is_not_guessed_at(text: str):
    wish = read_wish(text)
    assert wish.good is None
    assert wish.ask


def test_what_was_not_understood_is_shown_word_by_word():
    wish = read_wish("dry 2 kg of figs for my walrus and 3 elephants")
    assert (wish.good, wish.amount) == ("fig", 2.0)
    assert wish.not_understood == ["walrus", "3", "elephants"]


def test_half_a_kilo_is_not_understood_and_said_so():
    assert "kilo" in read_wish("dry half a kilo of mint").not_understood


def test_pieces_money_and_hours_are_heard():
    wish = read_wish(
        "dry plums, I have two panes 60 × 110, 40 m of black hose, a 200 litre steel drum, a foam board 120 x 60 x 4 cm, up to 60 €, two weekends"
    )
    sizes = [(row.sort, row.of, row.count, row.sides_m, row.litres, row.thick_m) for row in wish.have]
    assert sizes == [
        ("pane", "window-glass", 2, (1.1, 0.6), None, None), ("pipe", "black-pe", 1, (40.0, 0.0), None, None),
        ("drum", "", 1, (0.0, 0.0), 200.0, None), ("sheet", "eps-foam", 1, (1.2, 0.6), None, pytest.approx(0.04)),
    ]  # fmt: skip
    assert (wish.budget, wish.hours) == (60.0, 32.0)
    assert wish.not_understood == []


def test_a_day_of_work_is_no_period_and_a_day_is():
    assert read_wish("dry figs, a day of work").hours == 8.0
    assert read_wish("boil tea a day").every == "day"


def test_summer_is_in_january_south_of_the_line():
    assert read_wish("dry figs in summer", south=True).months == [12, 1, 2]
    assert read_wish("dry figs in March", south=True).months == [3]


def test_two_meanings_are_asked_about():
    assert "cook whole potatoes" in plain(read_wish("2 kg of potatoes").ask)
    assert "one thing at a time" in plain(read_wish("dry figs and tomatoes").ask)
    assert "Two amounts" in plain(read_wish("dry 3 kg or 5 kg of figs").ask)


def test_a_verb_or_a_unit_decides():
    assert read_wish("cook potatoes").good == "potatoes"
    assert read_wish("dry 0.2 m³ of cherry").good == "black-cherry-boards"
    assert read_wish("dry 2 kg of cherries").good == "cherry"


def test_fahrenheit_is_read_and_a_long_tale_is_refused():
    assert read_wish("warm a tub to 98 °F").celsius == pytest.approx(36.67, abs=0.01)
    with pytest.raises(InputProblem, match="letters"):
        read_wish("figs " * MOST_LETTERS)


def test_a_wish_is_said_back():
    assert (
        plain(said(read_wish("i want to dry 8 kg figs a week in september up to 60 €")))
        == "Dry 8 kg of fig a week in September, up to 60 €."
    )


def test_every_good_can_be_wished_by_each_of_its_words():
    """No word leads to a good that its own verb does not."""
    for offer in offers():
        good = offer.good
        for word in good.words:
            wish = read_wish(f"{good.verbs[0]} {word}")
            assert wish.good == good.name or good.name in str(wish.ask) or wish.ask, (good.name, word)
            assert wish.good in (None, good.name), (good.name, word, wish.good)


def test_names_are_one_good_each():
    for name, alike in by_name().items():
        assert len({offer.good.quantity for offer in alike}) == 1, name
        assert len({offer.made for offer in alike}) == len(alike), name
    assert {"dry", "cook", "melt", "warm"} <= verbs()


@pytest.mark.parametrize(("many", "one"), [("cherries", "cherry"), ("tomatoes", "tomato"), ("peaches", "peach"), ("loaves", "loaf"), ("wax crayons", "wax crayon"), ("glass", "glass"), ("grapes", "grape")])  # fmt: skip
def test_singular(many: str, one: str):
    assert singular(many) == one


@pytest.mark.parametrize(("word", "value"), [("2,5", 2.5), ("1/2", 0.5), ("three", 3.0), ("½", 0.5), ("1/0", None), ("pane", None)])  # fmt: skip
def test_numbers(word: str, value: float | None):
    assert number_of(word) == value
