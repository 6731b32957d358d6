"""Units of one's own, one quantity at a time."""

from __future__ import annotations

import pytest

from tests.ui.driver import Driver

pytestmark = pytest.mark.ui


def test_one_unit_may_be_set_apart(looking: Driver):
    looking.open("/builds/1/make")
    looking.button("Units").click()
    looking.page.get_by_label("mass").select_option("lb")
    looking.page.keyboard.press("Escape")
    looking.part("What goes in")
    assert looking.page.get_by_label("How much", exact=True).input_value() == "3.9683"
    looking.type_into("Goes in at", "22")
    looking.sees("mm")
