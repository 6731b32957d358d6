"""How samples side by side are tried."""

from __future__ import annotations

from drylamp.core.builds.common.protocols import BOARD, EACH_SAMPLE, ENDURANCE, FREE_LOG, LAY_OUT, OUTDOORS, PAINT, SUN
from drylamp.core.builds.protocol import OF_SAMPLES, ProtocolRow
from drylamp.core.text import metres

COATING_COMPARISON = ProtocolRow(
    name="coating-comparison",
    title="Coatings side by side, with control",
    purpose="Which finish runs hotter, by how much, whether that is real, and what a kelvin costs.",
    reading_minutes=[5, 10, 30, 60],
    in_rounds=True,
    checklist=LAY_OUT,
    cautions=[PAINT, "Dark metal in the sun burns: hold the probe, not the sample."],
    channels=[EACH_SAMPLE, BOARD, OUTDOORS, SUN],
    events=list(OF_SAMPLES),
    end_rule="After the round at 60 minutes; more rounds narrow the doubt.",
    end_minutes=60.0,
    figures=["best-sample", "ranking-doubt", "hottest"],
)

BLOCKS_UNDER_GLASS = ProtocolRow(
    name="blocks-under-glass",
    title="Blocks under glass into dusk",
    purpose="How warm pale, natural and dark blocks get in an afternoon, and how they give it back after sunset.",
    reading_minutes=[0, 30, 60, 90, 120, 150, 180, 210, 240, 270, 300, 330, 360],
    in_rounds=True,
    checklist=[
        "Stand the blocks on insulation under one pane, faces even, all dry.",
        f"Drill each face {metres(0.01)} deep for the probe, or tape it to the face under a chip of foam.",
        "Go on reading for three hours after the sun has left them.",
    ],
    cautions=[
        "Wet blocks are heavy and panes slide: brace both before the board is tilted.",
        "Glass: gloves, and nothing leaning on it.",
    ],
    channels=[EACH_SAMPLE, BOARD, OUTDOORS, SUN],
    events=list(OF_SAMPLES),
    end_rule="Three hours after the sun has left the blocks.",
    end_minutes=360.0,
    figures=["best-sample", "ranking-doubt", "cooling-hours", "wall", "hottest"],
)

PROTOCOLS: tuple[ProtocolRow, ...] = (
    COATING_COMPARISON,
    BLOCKS_UNDER_GLASS,
    ENDURANCE,
    FREE_LOG,
)
