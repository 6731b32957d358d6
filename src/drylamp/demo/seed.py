"""Fill an empty data file with the scenario."""

from __future__ import annotations

import sqlite3
from dataclasses import replace
from datetime import datetime, timedelta

from drylamp.core.loads.common.draws import Draw
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.demo.drafts import DRAFTS
from drylamp.demo.sawyer import fill_sawyer
from drylamp.demo.scenario import (
    APPLES,
    AUTUMN_BEGAN,
    AUTUMN_DAYS,
    BASIN,
    BLOCKS,
    BLOCKS_TRUTH,
    CAPPINGS,
    CHESTNUT_AND_POPLAR,
    DAIRY_TRUTH,
    DAIRY_WASH,
    DRAW_TRUTH,
    FIELD_TEA,
    FIG_BEGAN,
    FIG_TRUTH,
    FIGS,
    FIRST_OVEN,
    GARDEN_POOL,
    GLASS_TRUTH,
    HEATER_TRUTH,
    HOSE_TRUTH,
    KETTLE_TRUTH,
    KILN_BEGAN,
    KILN_TRUTH,
    LIDS,
    LIDS_TRUTH,
    LOOP_TRUTH,
    MELTER_TRUTH,
    OVEN,
    PERGOLA_BARREL,
    PLUNGE_TUB,
    SHOWERS,
    SOUTHERN,
    STEW,
    TERRACE,
    WATER,
    autumn_truth,
    demo_now,
    storm_week,
)
from drylamp.demo.tried import moment, tried
from drylamp.instruments.ingest import to_ms
from drylamp.store import builds, sites, trials
from drylamp.store.builds import BuildRow, Draft
from drylamp.store.database import Database, atomic

INSIDE = ("inside-air", "air inside", False)
TRAY = ("tray", "tray", False)
STEW_PROBE = ("contents", "stew", False)
WATER_PROBE = ("contents", "water", False)
CONTROL = ("control", "tin beside the box", True)


def fill(database: Database) -> bool:
    """Write the scenario unless the file holds something already; say whether it did."""
    with database.session() as db, atomic(db):
        if sites.any_site(db):
            return False
        home = sites.add_site(db, TERRACE)
        south = sites.add_site(db, SOUTHERN)
        oven = builds.add_build(
            db, home, Draft("Hatbox oven", "terrace", FIRST_OVEN, STEW, "as first built"), "2025-05-20T18:00:00+00:00"
        )
        _empty_box(db, oven)
        oven = builds.change_build(
            db,
            oven.id,
            DRAFTS["Hatbox oven"],
            oven.revision,
            "2025-05-30T17:00:00+00:00",
        )
        _water(db, oven)
        _stew(db, oven)
        _running(db, oven)
        lids = builds.add_build(db, home, DRAFTS["Tin lids"], "2025-06-06T09:00:00+00:00")
        _lids(db, lids)
        blocks = builds.add_build(db, home, DRAFTS["Blocks under glass"], "2025-03-06T09:00:00+00:00")
        _blocks(db, blocks)
        north = OVEN.model_copy(update={"facing_deg": 0.0})
        builds.add_build(
            db, south, Draft("Paddock oven", "paddock", north, STEW, "faces north"), "2025-06-01T00:00:00+00:00"
        )
        _cookers(db, home)
        _heaters(db, home)
        _dryers(db, home)
        kiln, film = _kilns(db, home)
        fill_sawyer(db, home, kiln, film)
    return True


def latest_activity(database: Database) -> datetime | None:
    """The last instant anything was written about, so that a restarted demo's clock goes on from there."""
    with database.session() as db:
        row = db.execute(
            """
            SELECT MAX(t) AS t FROM (
                SELECT MAX(time_ms) AS t FROM reading UNION ALL SELECT MAX(time_ms) FROM event
                UNION ALL SELECT MAX(started_ms) FROM trial UNION ALL SELECT MAX(ended_ms) FROM trial
            )
            """
        ).fetchone()
    return None if row["t"] is None else datetime.fromtimestamp(row["t"] / 1000.0, demo_now().tzinfo)


def _empty_box(db: sqlite3.Connection, oven: BuildRow) -> None:
    weather = ClearDay(tmin_c=12.0, tmax_c=23.0, rh=0.55, wind_m_s=1.5)
    trial = tried(
        db, oven, "Empty box, first sun", "stagnation", "2025-05-28T12:00:00+02:00", weather, None, [TRAY, INSIDE, CONTROL],
        "glass", PROTOCOLS["stagnation"].reading_minutes, 1,
    )  # fmt: skip
    trials.add_event(db, trial, "cloud", to_ms(moment("2025-05-28T12:27:00+02:00")), "thin cloud for two minutes")
    trials.end_trial(
        db,
        trial,
        to_ms(moment("2025-05-28T14:02:00+02:00")),
        "Cover fogged at first, then clear. Sealing strip lifts at the back corner.",
    )


def _water(db: sqlite3.Connection, oven: BuildRow) -> None:
    weather = ClearDay(tmin_c=14.0, tmax_c=25.0, rh=0.55, wind_m_s=2.0)
    trial = tried(
        db, oven, "Two litres of water", "heat-up", "2025-06-03T10:40:00+02:00", weather, WATER, [WATER_PROBE, INSIDE, CONTROL],
        "probe", PROTOCOLS["heat-up"].reading_minutes, 2,
    )  # fmt: skip
    trials.add_event(db, trial, "opened", to_ms(moment("2025-06-03T11:38:00+02:00")), "looked inside")
    trials.end_trial(db, trial, to_ms(moment("2025-06-03T14:45:00+02:00")), "")


def _stew(db: sqlite3.Connection, oven: BuildRow) -> None:
    weather = ClearDay(tmin_c=15.0, tmax_c=26.0, rh=0.6, wind_m_s=2.5, sky="hazy")
    trial = tried(
        db, oven, "Chickpea stew under haze", "free-log", "2025-06-09T10:30:00+02:00", weather, STEW, [STEW_PROBE, INSIDE],
        "logger", [2.0 * k for k in range(136)], 3,
    )  # fmt: skip
    trials.add_event(db, trial, "gust", to_ms(moment("2025-06-09T12:12:00+02:00")), "")
    trials.end_trial(db, trial, to_ms(moment("2025-06-09T15:02:00+02:00")), "Soft by 15:00.")


def _running(db: sqlite3.Connection, oven: BuildRow) -> None:
    weather = ClearDay(tmin_c=15.0, tmax_c=26.5, rh=0.54, wind_m_s=2.0)
    tried(
        db, oven, "Quick look before lunch", "quick-look", "2025-06-12T11:48:00+02:00", weather, None, [INSIDE, TRAY, CONTROL],
        "probe", [0.0, 5.0, 10.0], 4,
    )  # fmt: skip


def _lids(db: sqlite3.Connection, board: BuildRow) -> None:
    weather = ClearDay(tmin_c=14.0, tmax_c=25.0, rh=0.5, wind_m_s=1.2)
    began = "2025-06-10T12:05:00+02:00"
    gust, cloud = moment("2025-06-10T12:15:30+02:00"), moment("2025-06-10T13:06:30+02:00")
    channels = [(s.name, s.title, False) for s in LIDS.samples] + [
        ("board", "board", False),
        ("air", "air outside", False),
    ]
    trial = tried(
        db, board, "Six lids at noon", "coating-comparison", began, weather, None, channels, "probe", [5, 10, 30, 45, 60], 0,
        replace(LIDS_TRUTH, gusts=(gust,), clouds=(cloud,)),
    )  # fmt: skip
    trials.add_event(db, trial, "gust", to_ms(gust), "")
    trials.add_event(db, trial, "cloud", to_ms(cloud), "small, passing")
    trials.end_trial(
        db, trial, to_ms(moment("2025-06-10T13:20:00+02:00")), "Optical black scratches when the probe slips."
    )


def _blocks(db: sqlite3.Connection, row: BuildRow) -> None:
    weather = ClearDay(tmin_c=9.0, tmax_c=19.0, rh=0.6, wind_m_s=1.5)
    channels = [(s.name, s.title, False) for s in BLOCKS.samples] + [
        ("board", "board", False),
        ("air", "air outside", False),
    ]
    minutes = PROTOCOLS["blocks-under-glass"].reading_minutes
    trial = tried(
        db, row, "A March afternoon into dusk", "blocks-under-glass", "2025-03-08T13:30:00+01:00", weather, None, channels, "probe",
        minutes, 0, BLOCKS_TRUTH,
    )  # fmt: skip
    trials.end_trial(db, trial, to_ms(moment("2025-03-08T19:40:00+01:00")), "")


def _cookers(db: sqlite3.Connection, home: int) -> None:
    """A card box of the workshop day, the folding funnel, the harvest dish and the cappings melter."""
    made = "2025-06-02T08:00:00+00:00"
    for name in ("Workshop card box", "Folding funnel", "Harvest dish"):
        builds.add_build(db, home, DRAFTS[name], made)
    melter = builds.add_build(db, home, DRAFTS["Cappings melter"], made)
    weather = ClearDay(tmin_c=14.0, tmax_c=25.5, rh=0.55, wind_m_s=2.0)
    channels = [("wax", "heap", False), ("inside-air", "air inside", False), ("air", "air outside", False)]
    trial = tried(
        db, melter, "First cappings", "melt-run", "2025-06-07T10:00:00+02:00", weather, CAPPINGS, channels, "probe",
        PROTOCOLS["melt-run"].reading_minutes, 0, MELTER_TRUTH,
    )  # fmt: skip
    trials.end_trial(db, trial, to_ms(moment("2025-06-07T16:10:00+02:00")), "Cloth had to be scraped once.")


def _heaters(db: sqlite3.Connection, home: int) -> None:
    """The wash-house heater with a night in which its lid gave it away, and the hose that lies on the warm terrace."""
    made = "2025-04-24T08:00:00+00:00"
    heater = builds.add_build(db, home, DRAFTS["Wash-house heater"], made)
    weather = ClearDay(tmin_c=9.0, tmax_c=20.0, rh=0.6, wind_m_s=2.0)
    channels = [("water", "water at the top", False), ("air", "air outside", False)]
    still = SHOWERS.model_copy(update={"draws": []})
    trial = tried(
        db, heater, "A night under the lid", "night-loss", "2025-04-29T20:30:00+02:00", weather, still.model_copy(update={"start_c": 47.0}),
        channels, "wired-probe", PROTOCOLS["night-loss"].reading_minutes, 0, HEATER_TRUTH,
    )  # fmt: skip
    trials.end_trial(
        db, trial, to_ms(moment("2025-04-30T06:40:00+02:00")), "Dew on the inside of the lid along the back edge."
    )
    hose = builds.add_build(db, home, DRAFTS["Basin hose"], "2025-06-08T08:00:00+00:00")
    weather = ClearDay(tmin_c=14.0, tmax_c=25.0, rh=0.55, wind_m_s=1.5)
    standing = BASIN.model_copy(update={"draws": [], "start_c": 17.0})
    trial = tried(
        db, hose, "Left lying full", "standing-coil", "2025-06-11T11:30:00+02:00", weather, standing,
        [("water", "water in the pipe", False), ("air", "air outside", False)], "probe", PROTOCOLS["standing-coil"].reading_minutes, 0, HOSE_TRUTH,
    )  # fmt: skip
    trials.end_trial(
        db, trial, to_ms(moment("2025-06-11T12:35:00+02:00")), "Half in the shade of the bench at the end."
    )
    _at_taps(db, home, heater)
    _loops(db, home)


def _loops(db: sqlite3.Connection, home: int) -> None:
    """The plunge tub that is wanted warm on Saturday, and the garden pool with its two hundred metres of hose."""
    pergola = builds.add_build(
        db,
        home,
        DRAFTS["Pergola tubes"],
        "2025-05-20T08:00:00+00:00",
    )
    tub = builds.add_build(
        db,
        home,
        DRAFTS["Plunge tub"],
        "2025-06-02T08:00:00+00:00",
    )
    pool = builds.add_build(
        db,
        home,
        DRAFTS["Garden pool"],
        "2024-05-02T08:00:00+00:00",
    )
    air = ("air", "air outside", False)
    weather = ClearDay(tmin_c=13.0, tmax_c=25.0, rh=0.55, wind_m_s=2.0)
    trial = tried(
        db, pergola, "A day's sun into the barrel", "day-gain", "2025-06-05T08:00:00+02:00", weather, PERGOLA_BARREL.model_copy(update={"draws": []}),
        [("water", "water at the top", False), air], "probe", PROTOCOLS["day-gain"].reading_minutes, 0, LOOP_TRUTH,
    )  # fmt: skip
    trials.end_trial(db, trial, to_ms(moment("2025-06-05T18:20:00+02:00")), "Warm on top, cold a hand further down.")
    by_bucket = {"flow": "bucket"}
    read = [("outlet", "water coming out", False), ("inlet", "water coming in", False), ("flow", "flow", False), air]
    trial = tried(
        db, tub, "What the frame carries", "loop-power", "2025-06-07T14:20:00+02:00", weather, PLUNGE_TUB, read, "probe", PROTOCOLS["loop-power"].reading_minutes,
        0, LOOP_TRUTH, by_bucket,
    )  # fmt: skip
    trials.end_trial(
        db,
        trial,
        to_ms(moment("2025-06-07T14:55:00+02:00")),
        "A bubble at the upper bend, bled before the first reading.",
    )
    _last_autumn(db, pool)
    _tubes(db, home)


def _last_autumn(db: sqlite3.Connection, pool: BuildRow) -> None:
    """Forty evenings of the pool, the air and the sun by a logger, and the hours of a pump whose clock ended too early."""
    read = [
        ("water", "water, stirred", False), ("air", "air outside", False), ("sun", "sun on level ground", False), ("pump", "hours of the pump", False),
    ]  # fmt: skip
    by = {"sun": "pyranometer", "pump": "hour-meter"}
    start = GARDEN_POOL.model_copy(update={"start_c": 24.0, "warm_c": 23.0})
    trial = tried(
        db, pool, "Last autumn, evening by evening", "season-log", AUTUMN_BEGAN, ClearDay(tmin_c=13.0, tmax_c=23.0, rh=0.6, wind_m_s=2.0), start, read, "logger",
        [1440.0 * k for k in range(AUTUMN_DAYS)], 0, autumn_truth(), by, hourly=("air", "sun"),
    )  # fmt: skip
    ended = moment(AUTUMN_BEGAN) + timedelta(days=AUTUMN_DAYS - 1, minutes=10)
    trials.end_trial(db, trial, to_ms(ended), "Cover on each night, off at ten. First leaves in it at the end.")


def _tubes(db: sqlite3.Connection, home: int) -> None:
    """The field kettle with a trial that shows its worn foil, and the dairy's row of tubes."""
    kettle = builds.add_build(
        db,
        home,
        DRAFTS["Field kettle"],
        "2025-05-30T08:00:00+00:00",
    )
    half = FIELD_TEA.model_copy(update={"fill_l": 0.6, "pours": FIELD_TEA.pours[:1]})
    trial = tried(
        db, kettle, "Tea for the pickers", "to-the-boil", "2025-06-08T12:10:00+02:00", ClearDay(tmin_c=14.0, tmax_c=25.5, rh=0.55, wind_m_s=1.5), half,
        [("water", "water in the tube", False), ("air", "air outside", False)], "wired-probe", [0, 10, 20, 30, 40, 50, 60, 75, 90, 105], 0, KETTLE_TRUTH,
    )  # fmt: skip
    trials.end_trial(
        db, trial, to_ms(moment("2025-06-08T14:00:00+02:00")), "Foil of the left wing is creased along the hinge."
    )
    builds.add_build(
        db,
        home,
        DRAFTS["Dairy tubes"],
        "2025-06-06T08:00:00+00:00",
    )


def _dryers(db: sqlite3.Connection, home: int) -> None:
    """The fig dryer with a week of storm, the glass-lidded cabinet that browns its top tray, and a dryer built after a sketch."""
    figs = builds.add_build(
        db, home, DRAFTS["Fig dryer"], "2024-08-20T08:00:00+00:00"
    )  # fmt: skip
    trays = [(f"food-{food.number}", f"{food.title}, tray {food.tray}", False) for food in FIGS.numbered]
    air = ("air", "air outside", False)
    into = ("under-trays", "air to the trays", False)
    by = {name: "scale" for name, _, _ in trays} | {"under-trays": "wired-probe"}
    weather = ClearDay(tmin_c=15.0, tmax_c=27.0, rh=0.55, wind_m_s=1.5)
    trial = tried(
        db, figs, "Figs and a storm", "drying-run", FIG_BEGAN, weather, FIGS, [*trays, into, air], "probe",
        [0, 180, 360, 540, 1440, 1620, 1770, 2880, 3060, 3240, 3420], 0, replace(FIG_TRUTH, weather=storm_week()), by,
    )  # fmt: skip
    trials.add_event(db, trial, "sky", to_ms(moment("2024-09-11T14:30:00+02:00")), "grey")
    trials.add_event(db, trial, "note", to_ms(moment("2024-09-11T20:00:00+02:00")), "left out: the shed was full")
    trials.add_event(db, trial, "sky", to_ms(moment("2024-09-12T09:00:00+02:00")), "clear")
    trials.end_trial(
        db, trial, to_ms(moment("2024-09-12T18:30:00+02:00")), "Rain on the glass all night; tray 1 smelt sour at dawn."
    )
    cabinet = builds.add_build(
        db, home, DRAFTS["Glass-lidded cabinet"], "2024-08-28T08:00:00+00:00"
    )  # fmt: skip
    slices = [(f"food-{food.number}", f"{food.title}, tray {food.tray}", False) for food in APPLES.numbered]
    trial = tried(
        db, cabinet, "Apple rings, two weigh-ins", "drying-run", "2024-09-18T09:30:00+02:00", ClearDay(tmin_c=14.0, tmax_c=25.0, rh=0.55, wind_m_s=1.5), APPLES,
        [*slices, into, air], "probe", [0, 150, 330, 450], 0, GLASS_TRUTH, {name: "scale" for name, _, _ in slices} | {"under-trays": "wired-probe"},
    )  # fmt: skip
    trials.end_trial(
        db, trial, to_ms(moment("2024-09-18T17:10:00+02:00")), "Top tray brown at the edges, tray 1 still limp."
    )
    made = "2025-05-02T08:00:00+00:00"
    builds.add_build(db, home, DRAFTS["Sketch dryer"], made)
    builds.add_build(db, home, DRAFTS["The sketch itself"], made)


def _kilns(db: sqlite3.Connection, home: int) -> tuple[BuildRow, BuildRow]:
    """The chestnut kiln with the day on which it stood empty and seven weeks of its charge, and the film kiln."""
    kiln = builds.add_build(
        db, home, DRAFTS["Chestnut kiln"], "2025-04-12T18:00:00+00:00"
    )  # fmt: skip
    plain = replace(KILN_TRUTH, calibration=KILN_TRUTH.calibration.with_factor("drying", 1.0))
    empty = tried(
        db, kiln, "Empty, before the chestnut", "kiln-empty", "2025-04-19T10:30:00+02:00", ClearDay(tmin_c=8.0, tmax_c=19.0, rh=0.55, wind_m_s=2.0), None,
        [("chamber", "chamber air", False), ("baffle", "baffle", False), ("air", "air outside", False)], "wired-probe", PROTOCOLS["kiln-empty"].reading_minutes, 0, plain,
    )  # fmt: skip
    trials.end_trial(db, empty, to_ms(moment("2025-04-19T16:40:00+02:00")), "Smelt of fresh paint until noon.")
    groups = [(f"boards-{group.number}", group.name, False) for group in CHESTNUT_AND_POPLAR.numbered]
    charge = tried(
        db, kiln, "Chestnut since April, poplar since May", "charge-check", KILN_BEGAN, ClearDay(tmin_c=9.0, tmax_c=20.0, rh=0.58, wind_m_s=2.0, sky="hazy"), CHESTNUT_AND_POPLAR,
        [*groups, ("chamber", "chamber air", False)], "moisture-meter", PROTOCOLS["charge-check"].reading_minutes, 1, KILN_TRUTH, {"chamber": "wired-probe"},
    )  # fmt: skip
    trials.add_event(
        db, charge, "note", to_ms(moment("2025-05-12T09:30:00+02:00")), "poplar laid on top, sticks over sticks"
    )
    trials.end_trial(
        db,
        charge,
        to_ms(moment("2025-06-03T18:00:00+02:00")),
        "No check on the chestnut; the ridge whistles when the wind is in the north.",
    )
    film = builds.add_build(
        db,
        home,
        DRAFTS["Film kiln"],
        "2025-05-10T18:00:00+00:00",
    )
    return kiln, film


def _at_taps(db: sqlite3.Connection, home: int, heater: BuildRow) -> None:
    """The dairy's frame that gives half its promise, and a draw-off in which two thermometers contradict each other."""
    frame = builds.add_build(
        db,
        home,
        DRAFTS["Dairy frame"],
        "2025-06-05T08:00:00+00:00",
    )
    weather = ClearDay(tmin_c=14.0, tmax_c=25.0, rh=0.55, wind_m_s=1.5)
    read = ["outlet", "inlet", "row-1", "row-2", "air"]
    titles = {
        "outlet": "water coming out",
        "inlet": "water coming in",
        "row-1": "row 1",
        "row-2": "row 2",
        "air": "air outside",
        "flow": "flow",
        "water": "water at the top",
    }
    by_bucket = dict.fromkeys(("row-1", "row-2", "flow"), "bucket")
    trial = tried(
        db, frame, "Barrel and stopwatch", "bucket-power", "2025-06-10T12:40:00+02:00", weather, DAIRY_WASH, [(n, titles[n], False) for n in read],
        "probe", PROTOCOLS["bucket-power"].reading_minutes, 0, DAIRY_TRUTH, by_bucket,
    )  # fmt: skip
    trials.end_trial(db, trial, to_ms(moment("2025-06-10T13:15:00+02:00")), "Second row comes in spurts.")
    warm = SHOWERS.model_copy(
        update={"draws": [Draw(at="20:30", take_l=40.0, l_min=4.0)], "start_c": 49.0, "layers": 1, "mains_c": 14.0}
    )
    read = ["water", "outlet", "inlet", "flow"]
    trial = tried(
        db, heater, "Forty litres into a tub", "draw-off", "2025-06-07T20:30:00+02:00", weather, warm, [(n, titles[n], False) for n in read],
        "probe", [0.0, 1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0, 8.0, 9.0, 10.0], 0, DRAW_TRUTH, by_bucket,
    )  # fmt: skip
    trials.end_trial(db, trial, to_ms(moment("2025-06-07T20:42:00+02:00")), "Stirred before and after.")
