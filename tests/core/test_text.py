"""Sentences carry quantities: made as text, told apart over the wire, written out by one rule of digits."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from drylamp.core.checks import Model
from drylamp.core.quantities import Quantity, quantity_of, without_unit
from drylamp.core.text import (
    Amount,
    Sentence,
    amount,
    celsius,
    kelvin,
    kilograms,
    marked,
    metres,
    pieces,
    plain,
)
from drylamp.core.units import CHOSEN, FOLLOWED, PRESETS, UNITS, shown


def test_a_sentence_is_words_and_quantities_over_the_wire():
    class Said(Model):
        words: Sentence

    said = Said(words=f"It gets to {celsius(98.2)}, {kelvin(3.4, 1.2)} over.")
    apart = json.loads(said.model_dump_json())["words"]
    assert apart[0] == "It gets to "
    assert Amount.model_validate(apart[1]) == Amount(value=98.2, quantity="temperature")
    assert Amount.model_validate(apart[3]) == Amount(value=3.4, quantity="difference", doubt=1.2)
    assert Said.model_validate(json.loads(said.model_dump_json())) == said
    assert plain(said.words) == "It gets to 98 °C, 3.4 ± 1.2 K over."


@pytest.mark.parametrize("name", ["⦃1 nonsense⦄", "⦃x temperature⦄", "⦃1e9999 mass⦄", "⦃⦄", "a ⦃ b"])
def test_a_name_may_hold_what_its_giver_likes(name):
    assert pieces(f"{name} gets to {celsius(98.2)}")[0] == f"{name} gets to "
    assert plain(name) == name


def test_what_is_no_number_is_a_dash():
    assert plain(f"{celsius(None)} and {kelvin(float('nan'))}") == "– and –"


@given(
    st.floats(-1e6, 1e6, allow_nan=False), st.sampled_from(sorted(UNITS)), st.none() | st.floats(0, 1e3), st.booleans()
)
def test_marks_survive_the_wire(value, quantity, doubt, signed):
    text = f"a {amount(value, quantity, doubt, signed=signed)} b"
    assert marked(json.loads(json.dumps([p if isinstance(p, str) else p.model_dump() for p in pieces(text)]))) == text


@pytest.mark.parametrize(("text", "words"), [
    (celsius(-0.3), "0 °C"), (kelvin(-0.04, signed=True), "0 K"), (kelvin(2.24, signed=True), "+2.2 K"), (kelvin(12.3), "12 K"),
    (kilograms(0.0212), "0.021 kg"), (kilograms(1.234, 0.05), "1.234 ± 0.050 kg"), (metres(0.0762), "76.2 mm"), (celsius(98.2, 3.0), "98 ± 3 °C"),
    (celsius(98.2, 0.2), "98 ± 1 °C"), (kelvin(14.04, 2.7, signed=True), "+14.0 ± 2.7 K"), (kilograms(1.234, 0.1), "1.23 ± 0.10 kg"), (kelvin(-0.04, 0.9, signed=True), "0.0 ± 0.9 K"),
    (amount(0.5, "price"), "0.50 €"), (amount(38.0, "price"), "38 €"), (amount(100.0, "difference"), "100 K"),
    (amount(0.85, "share"), "85 %"), (amount(-3.2, "temperature"), "−3 °C"), (amount(30.2, "angle"), "30°"),
])  # fmt: skip
def test_one_rule_of_digits(text, words):
    assert plain(text) == words


@given(st.floats(-1e5, 1e5, allow_nan=False), st.sampled_from(sorted(UNITS)))
def test_never_minus_nothing_in_any_unit(value, quantity):
    for unit in UNITS[quantity]:
        assert not shown(value, quantity, unit).startswith(("−0 ", "-0 ", "−0°", "-")), unit


def test_every_quantity_has_units_and_every_setting_is_one():
    assert set(UNITS) == set(Quantity.__args__)
    for preset in PRESETS.values():
        assert preset.keys() == CHOSEN.keys()
        for quantity, symbol in preset.items():
            assert symbol in [unit.symbol for unit in UNITS[quantity]]
    for key, others in FOLLOWED.items():
        quantity, symbol = key.split(" ")
        assert symbol in [unit.symbol for unit in UNITS[quantity]]
        assert all(unit in [u.symbol for u in UNITS[other]] for other, unit in others.items())


@pytest.mark.parametrize(("value", "quantity", "symbol", "words"), [
    (100.0, "temperature", "°F", "212 °F"), (0.0254, "length", "in", "1 in"), (1.0, "mass", "lb", "2.2 lb"), (3.785411784, "volume", "gal", "1 gal"),
    (1000.0, "power", "BTU/h", "3412 BTU/h"), (10.0, "difference", "°F", "18 °F"), (1000.0, "irradiance", "BTU/h·ft²", "317 BTU/h·ft²"),
])  # fmt: skip
def test_units_against_their_definitions(value, quantity, symbol, words):
    """NIST SP 811, appendix B (inch, pound, gallon and International-Table BTU)."""
    unit = next(u for u in UNITS[quantity] if u.symbol == symbol)
    assert shown(value, quantity, unit) == words


def test_a_field_is_of_the_quantity_that_its_name_ends_in():
    assert quantity_of("sheet_width_m") == "length"
    assert quantity_of("level_sun_w_m2") == "irradiance"
    assert quantity_of("shape") is None
    assert without_unit("hold_minutes") == "Hold"
