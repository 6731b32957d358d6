"""What may be typed into a build, and what follows from one change."""

import pytest
from pydantic import ValidationError

from drylamp.core.builds.registry import KINDS
from drylamp.core.checks import InputProblem
from drylamp.core.forms import added, changed, form_of, is_for_files_only, read_path, removed
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.loads.registry import LOADS
from drylamp.core.tables import layers
from drylamp.demo.scenario import BISCUITS, CAPPINGS, DISH, FUNNEL, LIDS, MELTER, OVEN, STEW

MODELS = [*(kind.spec for kind in KINDS.values()), *LOADS.values()]


def every_field(fields, at=""):
    for field in fields:
        yield f"{at}{field.name}", field
        yield from every_field(field.fields, f"{at}{field.name}.")


@pytest.mark.parametrize("model", MODELS, ids=lambda m: m.__name__)
def test_every_field_can_be_asked_for(model):
    fields = dict(every_field(form_of(model)))
    for_files = {name for name, info in model.model_fields.items() if is_for_files_only(info)}
    assert {path for path in fields if "." not in path} == set(model.model_fields) - {"kind"} - for_files
    assert all(model.model_fields[name].description for name in for_files)
    for path, field in fields.items():
        assert field.title[:1].strip(), path
        assert field.sort != "number" or field.least is not None, path
        assert field.sort != "choice" or len(field.options) > 1, path
        assert field.sort != "material" or field.family in ("absorber", "cover", "mirror", "layer"), path
        assert field.sort != "many" or field.most_items > 1, path


@pytest.mark.parametrize("kind", KINDS.values(), ids=lambda k: k.name)
def test_every_field_has_a_card(kind):
    assert {field.part for field in form_of(kind.spec)} <= set(kind.parts)
    assert set(kind.notes) | {action.part for action in kind.actions.values()} <= set(kind.parts)


def test_ranges_and_units_come_from_the_types():
    fields = dict(every_field(form_of(type(OVEN))))
    assert (fields["width_m"].quantity, fields["width_m"].least, fields["width_m"].most) == ("length", 0.05, 3.0)
    assert fields["turned_minutes"].may_be_empty
    assert fields["cover.layers"].whole
    assert fields["mirror.angle_deg"].quantity == "angle"
    assert fields["shape"].options[1].title == "wedge, stands level"


def test_weights_on_a_stack_are_asked_for_by_the_square_metre():
    asked_for = dict(every_field(form_of(LumberCharge)))["weights_kg_m2"]
    assert asked_for.quantity == "mass_area"


def test_other_stuff_comes_as_thick_as_it_usually_is():
    wool = changed(OVEN, read_path("wall.0.material"), "glass-wool")
    assert wool.wall[0].thickness_m == layers()["glass-wool"].usual_thickness_m
    assert wool.wall[1:] == OVEN.wall[1:]


def test_another_food_wants_what_it_wants_and_another_pot_brings_its_own():
    hot = STEW.model_copy(update={"target_c": 60.0})
    assert changed(hot, ["food"], "porridge").target_c is None
    iron = changed(STEW, ["vessel"], "cast-iron")
    assert iron.pot_kg > 2 * STEW.pot_kg
    assert changed(CAPPINGS.model_copy(update={"wax_share": 0.5}), ["form"], "old-comb").wax_share is None


def test_lists_grow_and_shrink():
    more = added(LIDS, ["samples"])
    assert more.samples[-1].name not in {sample.name for sample in LIDS.samples}
    assert removed(more, ["samples", len(LIDS.samples)]) == LIDS
    thick = added(OVEN, ["wall"])
    assert len(thick.wall) == len(OVEN.wall) + 1


def test_one_control_only():
    marked = changed(LIDS, read_path("samples.2.is_control"), True)
    assert [sample.is_control for sample in marked.samples].index(True) == 2
    assert sum(sample.is_control for sample in marked.samples) == 1


def test_records_come_and_go():
    bare = removed(OVEN, ["cover"])
    assert bare.cover is None
    assert added(bare, ["cover"]).cover is not None
    assert added(OVEN, ["flaps", "left"]).flaps.left is not None
    bagged = added(STEW, ["under"])
    assert bagged.under.diameter_m > STEW.pot_diameter_m


@pytest.mark.parametrize(
    ("path", "value"), [("width_m", -1.0), ("wall.0.material", "cheese"), ("cover.layers", 9), ("shape", "round")]
)
def test_what_cannot_be_is_refused(path, value):
    with pytest.raises(ValidationError):
        changed(OVEN, read_path(path), value)


@pytest.mark.parametrize("path", ["nothing", "wall.9.material", "wall.x", "width_m.more", "cover.none", "wall.0"])
def test_paths_that_lead_nowhere_are_told(path):
    with pytest.raises(InputProblem):
        changed(OVEN, read_path(path), 1.0)


def steps_of(value, before=()):
    """Paths to everything in a record, and some that lead nowhere."""
    inside = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for step, inner in inside:
        yield (*before, step)
        yield from steps_of(inner, (*before, step))


@pytest.mark.parametrize("model", [OVEN, FUNNEL, DISH, MELTER, LIDS, STEW, BISCUITS], ids=lambda m: type(m).__name__)
def test_whatever_is_added_or_taken_away_is_done_or_refused(model):
    """Nothing breaks: a number is no list, a part that must be there stays as it is."""
    done = 0
    for path in [(), (0,), (0, 0), ("kind",), *steps_of(model.model_dump(mode="json"))]:
        for change in (added, removed):
            try:
                done += change(model, path) != model
            except (InputProblem, ValidationError):
                continue
    assert done > 0


def test_the_last_of_a_list_that_needs_one_stays():
    one = OVEN.model_copy(update={"wall": OVEN.wall[:1]})
    with pytest.raises(ValidationError):
        removed(one, ["wall", 0])
