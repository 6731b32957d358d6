"""What a set of samples is made of."""

from __future__ import annotations

from drylamp.core.builds.common.cover import bill as cover_bill
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.common.bill import Piece, coat, layer_piece, pane_piece, stacked, thing
from drylamp.core.tables import absorber


def pieces_of(build: Samples) -> list[Piece]:
    """Board, samples with their coats, cover or bowls."""
    across, up = build.board_size_m
    out = stacked("board", "board", build.board, across, up)
    out += coat("board", "board, painted", absorber(build.board_finish), build.opening_m2)
    for k, sample in enumerate(build.samples):
        part, own = f"sample-{k}", sample.price_m2
        row = sample.row if own <= 0.0 else sample.row.model_copy(update={"price_m2": own})
        out += layer_piece(part, sample.title, build.stuff_of(sample), build.width_m, build.tall_m)
        out += coat(part, f"{sample.title}, painted", row, build.sample_m2)
    if build.stands_off_m is not None:
        out.append(thing("board", "spacers", len(build.samples)))
    if build.over is not None:
        over = build.over
        out.append(
            pane_piece(
                "cover",
                over.title,
                over.row,
                over.thickness_m,
                over.hull_m2**0.5,
                over.hull_m2**0.5,
                len(build.samples),
            )
        )
    return out + cover_bill.pieces_of(build.cover, up, across)
