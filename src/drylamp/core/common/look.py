"""How builds, parts and lines of the ledger are drawn: names of inks, which the front end mixes by day and at dusk."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from drylamp.core.checks import Model, YesNo
from drylamp.core.heat.parts import Role

Ink = Literal[
    "accent", "ink", "soft", "rule", "sun", "sky", "water", "glass", "foam", "wood", "twin", "plum", "rust", "honey"
]


class Accent(Model):
    """A kind's own colour, by day on paper and at dusk by lamplight; each at least 4.5:1 against its ground."""

    day: str
    dusk: str


OVEN = Accent(day="#8E2C15", dusk="#FF9C7F")


@dataclass(frozen=True)
class Account:
    """A line of the ledger: in whole words, short, where heat comes from when it runs backwards, and its ink."""

    title: str
    short: str
    ink: Ink
    back: str = "what is warm"


MIRRORED = "thrown back"
WIND = Account("carried off by the wind", "wind", "water")
SKY = Account("shone back to sky and surroundings", "shone back", "soft")
LEAK = Account("lost with leaking air", "leak", "water")
STEAM = Account("gone as steam", "steam", "rule")
FOOD = Account("into pot and food", "into food", "accent", "the pot")


class CurveLook(Model):
    """How a temperature is drawn: ink, width, dashes, and whether it is drawn unasked."""

    ink: Ink
    width: float
    dash: str = ""
    usual: YesNo = True


BY_ROLE: dict[Role, CurveLook] = {
    "wanted": CurveLook(ink="accent", width=3),
    "core": CurveLook(ink="twin", width=3),
    "caught": CurveLook(ink="accent", width=1.6, dash="5 3"),
    "vessel": CurveLook(ink="accent", width=1.2, dash="2 3", usual=False),
    "absorber": CurveLook(ink="ink", width=2),
    "air": CurveLook(ink="water", width=2, dash="6 3"),
    "pane": CurveLook(ink="glass", width=1.3, dash="4 2", usual=False),
    "wall": CurveLook(ink="soft", width=1.3, dash="8 3 2 3", usual=False),
    "inner": CurveLook(ink="soft", width=1, dash="1 4", usual=False),
    "level": CurveLook(ink="water", width=1.2, dash="3 3", usual=False),
    "vapour": CurveLook(ink="water", width=1, dash="1 4", usual=False),
    "several": CurveLook(ink="accent", width=2),
}
SEVERAL_INKS: tuple[Ink, ...] = ("plum", "rust", "water", "sun", "twin", "ink")
SEVERAL_DASHES = ("", "7 3", "2 3", "9 3 2 3")


def looks_of(roles: dict[str, Role]) -> dict[str, CurveLook]:
    """How the nodes of a run are drawn; several of a sort are told apart by ink and by dash."""
    looks, several = {}, 0
    for node, role in roles.items():
        look = BY_ROLE[role]
        if role == "several":
            dash = SEVERAL_DASHES[several // 2 % len(SEVERAL_DASHES)]
            look = look.model_copy(update={"ink": SEVERAL_INKS[several % len(SEVERAL_INKS)], "dash": dash})
            several += 1
        looks[node] = look
    return looks
