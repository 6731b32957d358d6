"""Larkspur Terrace: a made-up smallholding, its box oven and its trials.

All data here is invented. The trials' readings come from the stand-in logger, whose oven has hidden true
factors, so that the verdicts have something to find.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import date, datetime, timedelta

import numpy as np

from drylamp.core.advice.patch import bright_patch
from drylamp.core.builds.batch_box.spec import BatchBox
from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.air_collector.spec import AirCollector
from drylamp.core.builds.common.air_way.spec import Inlet, Vent
from drylamp.core.builds.common.cover.spec import GlazedCover, Sheet
from drylamp.core.builds.common.lid.spec import NightLid
from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.builds.common.side_by_side import Sample
from drylamp.core.builds.common.vacuum_tube.spec import VacuumTube
from drylamp.core.builds.common.vacuum_tube.wings import Wings
from drylamp.core.builds.dish.spec import Dish
from drylamp.core.builds.dryer.spec import FoodDryer, Trays, Wheels
from drylamp.core.builds.funnel.spec import Funnel
from drylamp.core.builds.hose_coil.spec import HoseCoil
from drylamp.core.builds.kiln.spec import Baffle, Door, Frame, KilnFan, KilnVents, LumberKiln
from drylamp.core.builds.melter.spec import Melter
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.builds.sleeved_tubes.spec import SleevedTubes
from drylamp.core.builds.tube_kettle.spec import TubeKettle
from drylamp.core.builds.tube_row.spec import SheetBehind, TubeRow
from drylamp.core.common.coil import Coil
from drylamp.core.common.wall import WallLayer
from drylamp.core.engine import run_case
from drylamp.core.loads.common.draws import Draw, Running
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.loads.common.loop.spec import PipeRun, Pump
from drylamp.core.loads.food_trays.spec import FoodOnTray, FoodTrays
from drylamp.core.loads.kettle.spec import KettleWater, Pour
from drylamp.core.loads.load import Load
from drylamp.core.loads.lumber.group import BoardGroup
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.loads.pool.spec import Bathing, OnWater, Pool
from drylamp.core.loads.portions.spec import Portion, Portions
from drylamp.core.loads.pot.spec import PotLoad, in_vessel
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.loads.tank.spec import Exchanger, LoopTank
from drylamp.core.loads.water.spec import HotWater
from drylamp.core.loads.wax.spec import WaxBatch
from drylamp.core.sky.generator import made_up_weather
from drylamp.core.sky.months import ClimateMonth
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.site import HorizonPoint, Obstacle, Site, Spot
from drylamp.core.sky.weather import ClearDay, Span, Weather
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.case import Case
from drylamp.instruments.logger import Truth

NOW = "2025-06-12T12:10:00+02:00"
"""The demo's own clock starts here and runs at true speed."""

CLIMATE = [
    (3.0, 12.0, 0.70, 1.8), (3.5, 13.5, 0.66, 2.0), (5.5, 16.0, 0.62, 2.2), (7.5, 18.0, 0.60, 2.3),
    (11.0, 22.0, 0.58, 2.1), (15.0, 26.5, 0.54, 2.0), (18.0, 30.0, 0.50, 2.0), (18.0, 29.5, 0.55, 1.9),
    (15.0, 26.0, 0.60, 1.8), (11.5, 21.5, 0.66, 1.8), (6.5, 15.5, 0.70, 1.8), (4.0, 12.5, 0.72, 1.7),
]  # fmt: skip
"""Tmin, Tmax, humidity and wind of a usual clear day, January to December; invented."""


CLEARNESS = (0.46, 0.48, 0.50, 0.51, 0.53, 0.57, 0.61, 0.58, 0.54, 0.49, 0.46, 0.44)
"""Share of the sun outside the air that reaches the ground, January to December; invented."""


def months(first: int = 0) -> list[ClimateMonth]:
    """Monthly means, beginning with the row of that number."""
    rows = [(*CLIMATE[(first + k) % 12], CLEARNESS[(first + k) % 12]) for k in range(12)]
    return [ClimateMonth(tmin_c=a, tmax_c=b, rh=c, wind_m_s=d, clearness=e) for a, b, c, d, e in rows]


TERRACE = Site(
    name="Larkspur Terrace",
    latitude_deg=41.2,
    longitude_deg=1.1,
    elevation_m=480.0,
    time_zone="Europe/Madrid",
    spots=[
        Spot(
            name="terrace",
            horizon=[
                HorizonPoint(azimuth_deg=60, altitude_deg=6),
                HorizonPoint(azimuth_deg=120, altitude_deg=4),
                HorizonPoint(azimuth_deg=180, altitude_deg=3),
                HorizonPoint(azimuth_deg=250, altitude_deg=7),
                HorizonPoint(azimuth_deg=300, altitude_deg=9),
            ],
            obstacles=[Obstacle(name="house", bearing_deg=285, distance_m=9, height_m=5, width_m=11)],
        ),
        Spot(
            name="orchard edge",
            horizon=[HorizonPoint(azimuth_deg=180, altitude_deg=3)],
            obstacles=[
                Obstacle(name="fig tree", bearing_deg=125, distance_m=6, height_m=5, width_m=5),
                Obstacle(name="shed", bearing_deg=235, distance_m=8, height_m=3.2, width_m=4),
            ],
        ),
        Spot(name="flat roof", horizon=[HorizonPoint(azimuth_deg=180, altitude_deg=2)]),
    ],
    climate=months(),
)

SOUTHERN = Site(
    name="South Paddock",
    latitude_deg=-33.5,
    longitude_deg=150.3,
    elevation_m=620.0,
    time_zone="Australia/Sydney",
    spots=[Spot(name="paddock", horizon=[HorizonPoint(azimuth_deg=0, altitude_deg=5)])],
    climate=months(6),
)

FIRST_OVEN = BoxOven(
    facing_deg=180.0,
    tilt_deg=25.0,
    width_m=0.50,
    length_m=0.45,
    height_m=0.24,
    wall=[
        WallLayer(material="corrugated-card", thickness_m=0.006),
        WallLayer(material="sheep-wool", thickness_m=0.045),
        WallLayer(material="plywood", thickness_m=0.009),
    ],
    lining="aluminium-foil",
    tray="flat-black-paint",
    cover=GlazedCover(material="window-glass", thickness_m=0.004, layers=1, gap_m=0.015),
    mirror=FlapMirror(material="kitchen-foil", length_m=0.45, angle_deg=110.0),
    seal_gap_mm=0.5,
)
OVEN = FIRST_OVEN.model_copy(
    update={"cover": GlazedCover(material="window-glass", thickness_m=0.004, layers=2, gap_m=0.015)}
)
STEW = PotLoad(
    food="chickpea-stew", food_kg=1.8, start_c=22.0, pot_kg=1.1, pot_finish="black-enamel", pot_diameter_m=0.22,
    pot_height_m=0.12, lid="black", goes_in="10:30",
)  # fmt: skip
WATER = STEW.model_copy(
    update={"food": "water", "food_kg": 2.0, "start_c": 19.0, "hold_minutes": 0.0, "target_c": 90.0}
)

WORKSHOP = BoxOven(
    facing_deg=120.0,
    tilt_deg=15.0,
    width_m=0.38,
    length_m=0.30,
    height_m=0.16,
    wall=[WallLayer(material="corrugated-card", thickness_m=0.006)],
    lining="aluminium-foil",
    tray="black-card",
    tray_sheet=WallLayer(material="corrugated-card", thickness_m=0.003),
    cover=GlazedCover(material="polyester-film", thickness_m=0.0001, layers=1),
    mirror=FlapMirror(material="kitchen-foil", length_m=0.30, angle_deg=85.0),
    seal_gap_mm=1.0,
)
"""A card box of the workshop day: film, one foil flap, black floor."""
BISCUITS = Portions(
    portions=[
        Portion(
            name="left",
            title="left biscuit",
            what="marshmallow-biscuit",
            mass_kg=0.03,
            across=0.22,
            up=0.72,
            goes_in="11:30",
        ),
        Portion(
            name="right",
            title="right biscuit",
            what="marshmallow-biscuit",
            mass_kg=0.03,
            across=0.78,
            up=0.22,
            goes_in="11:30",
        ),
    ],
    start_c=22.0,
)
FUNNEL = Funnel(
    facing_deg=180.0, tilt_deg=25.0, sheet_width_m=1.3, sheet_height_m=0.85, mirror="smooth-foil", throat_m=0.27, flare_deg=38.0,
    stand_m=0.34, turned_minutes=120.0,
)  # fmt: skip
FLAT_LOAF = in_vessel(
    PotLoad(food="tin-loaf", food_kg=0.7, start_c=24.0, pot_diameter_m=0.2, pot_height_m=0.10, goes_in="11:00"),
    "dark-tin",
).model_copy(update={"under": Envelope(material="oven-bag", thickness_m=0.000025, diameter_m=0.25, height_m=0.15)})
"""A loaf in a flat dark tin under an oven bag."""
DISH = Dish(
    facing_deg=180.0,
    tilt_deg=20.0,
    diameter_m=1.4,
    focal_m=0.6,
    mirror="anodised-sheet",
    surface="fair",
    turned_minutes=20.0,
)
CREW_POT = in_vessel(
    PotLoad(
        food="bean-pot",
        food_kg=4.0,
        start_c=22.0,
        pot_diameter_m=0.24,
        pot_height_m=0.18,
        goes_in="11:00",
        hold_minutes=45.0,
    ),
    "pressure-pot",
).model_copy(update={"whistles": 6})
"""Beans for the harvest crew, done after six whistles and a rest."""
MELTER = Melter(
    facing_deg=180.0, tilt_deg=30.0, width_m=0.50, length_m=0.70, height_m=0.12,
    wall=[WallLayer(material="pine-board", thickness_m=0.020)], cover=GlazedCover(material="old-window-glass", thickness_m=0.003),
)  # fmt: skip
CAPPINGS = WaxBatch(form="cappings", batch_kg=1.6, strainer="cloth", goes_in="10:00", start_c=20.0)
MELTER_TRUTH = Truth(calibration=Calibration(optical=0.93, leak=2.0), noise_k=0.4, seed=55)
"""Old glass with a film on it, and a lid that has warped."""

HEATER = BatchBox(
    facing_deg=180.0, width_m=1.0, length_m=0.6, height_m=0.24, tray="flat-black-paint", lining="pale-paint",
    wall=[
        WallLayer(material="plywood", thickness_m=0.009), WallLayer(material="xps-foam", thickness_m=0.05),
        WallLayer(material="plywood", thickness_m=0.009),
    ],
    cover=GlazedCover(material="window-glass", thickness_m=0.004, layers=2, gap_m=0.015),
    lid=NightLid(material="xps-foam", thickness_m=0.03, shut_at="20:00", open_at="08:30"), seal_gap_mm=0.2,
)  # fmt: skip
SHOWERS = HotWater(
    fill_l=90.0, start_c=17.0, want_l=100.0, want_at="19:00", draws=[Draw(at="19:00", take_l=50.0, l_min=5.0)]
)
"""Four showers at seven; filled too deep in spring."""
HEATER_TRUTH = Truth(calibration=Calibration(optical=0.96, leak=6.0, loss=1.2), noise_k=0.2, seed=91)
"""A lid that does not close all round."""
BASIN_HOSE = HoseCoil(
    facing_deg=180.0, tilt_deg=0.0, width_m=1.0, length_m=1.0, coil=Coil(material="garden-hose", pipe_m=25.0, bore_mm=13.0, outer_mm=17.0),
    pitch_mm=30.0, bed="concrete", under=[WallLayer(material="brick-layer", thickness_m=0.05)],
)  # fmt: skip
BASIN = RunningWater(
    running=[],
    start_c=17.0,
    want_l=6.0,
    draws=[Draw(at="12:00", take_l=3.0, l_min=3.0), Draw(at="17:00", take_l=3.0, l_min=3.0)],
)
"""Three litres for the hand basin at noon and at five."""
DAIRY_FRAME = HoseCoil(
    facing_deg=180.0, tilt_deg=30.0, width_m=1.1, length_m=1.6, coil=Coil(material="black-pe", pipe_m=40.0, bore_mm=13.0, outer_mm=16.0), coils=2,
    joined="parallel", pitch_mm=20.0, bed="flat-black-paint", cover=GlazedCover(material="window-glass", thickness_m=0.004), cover_gap_m=0.03,
)  # fmt: skip
DAIRY_WASH = RunningWater(
    running=[Running(begins="10:00", ends="16:00", l_min=2.0)], want_l=300.0, mains_c=14.0, head_m=2.2
)
"""Wash water for the dairy from a barrel on the wall, through two rows under an old pane."""
DAIRY_TRUTH = Truth(
    calibration=Calibration(optical=0.96), noise_k=0.2, seed=93, build=DAIRY_FRAME.with_(coils=1), rows=(1.93, 0.07)
)
"""Air sits in the second row."""
DRAW_TRUTH = Truth(calibration=Calibration(optical=0.96, loss=1.1), noise_k=0.2, seed=94, off={"outlet": -4.5})
"""A tap thermometer that was dropped once."""
HOSE_TRUTH = Truth(calibration=Calibration(optical=0.95, loss=1.15), noise_k=0.4, seed=92)

TUB_FRAME = HoseCoil(
    facing_deg=180.0, tilt_deg=30.0, width_m=1.25, length_m=1.6, coil=Coil(material="black-pe", pipe_m=90.0, bore_mm=13.0, outer_mm=16.0), pitch_mm=22.0,
    bed="flat-black-paint", under=[WallLayer(material="xps-foam", thickness_m=0.02)],
)  # fmt: skip
PERGOLA_TUBES = SleevedTubes(
    facing_deg=180.0, tilt_deg=50.0, rows=10, lit_m=1.4, pipe=Coil(material="black-pe", pipe_m=1.0, bore_mm=20.0, outer_mm=25.0), pitch_mm=100.0,
)  # fmt: skip
PERGOLA_BARREL = LoopTank(
    fill_l=90.0, start_c=17.0, warm_c=38.0, want_l=50.0, want_at="19:00", tall_m=0.8, lagging=[WallLayer(material="sheep-wool", thickness_m=0.05)], above_m=-0.3,
    pump=None, run=PipeRun(there_m=2.0, back_m=1.5, bore_mm=20.0, outer_mm=25.0, lagging_mm=9.0), draws=[Draw(at="19:00", take_l=30.0, l_min=5.0)],
)  # fmt: skip
"""Bottle tubes up the pergola's side feed a barrel without a pump; it stands beside their foot, and mornings are cold."""
PLUNGE_TUB = Pool(
    fill_l=700.0, surface_m2=1.1, start_c=19.0, warm_c=34.0, want_at="19:00", wall=[WallLayer(material="pine-board", thickness_m=0.04)], on_water=None,
    shelter_share=0.4, above_m=-0.9, run=PipeRun(there_m=4.0, back_m=4.0), pump=Pump(head_m=2.5, free_l_min=16.0, motor_w=22.0, begins="11:00", ends="19:00"),
    check_valve=True,
)  # fmt: skip
"""The plunge tub under the vine, uncovered, its pump on a timer that runs until the sun has long left the frame."""
POOL_COIL = HoseCoil(
    facing_deg=180.0, tilt_deg=12.0, width_m=2.2, length_m=2.2, coil=Coil(material="black-pe", pipe_m=100.0, bore_mm=16.0, outer_mm=20.0), coils=2, joined="parallel",
    pitch_mm=22.0, bed=None,
)  # fmt: skip
GARDEN_POOL = Pool(
    fill_l=9000.0, surface_m2=8.0, start_c=21.0, warm_c=24.0, want_at="17:00", wall=[WallLayer(material="sheet-steel", thickness_m=0.001)], sunk_share=0.3,
    on_water=OnWater(material="bubble-film", on_at="19:30", off_at="10:00"), floor="pale-paint", shelter_share=0.5, above_m=-2.6,
    run=PipeRun(there_m=9.0, back_m=9.0, bore_mm=25.0, outer_mm=32.0, material="black-pe"),
    pump=Pump(head_m=6.0, free_l_min=60.0, motor_w=90.0, into_water_share=0.4, begins="10:00", ends="17:00", from_month=4, to_month=10),
    check_valve=True, bathing=[Bathing(at="17:00", stay_minutes=60.0, persons=3)],
)  # fmt: skip
"""Two hundred metres of hose on the shed's roof and a garden pool."""

FIELD_KETTLE = TubeKettle(
    facing_deg=180.0, tilt_deg=45.0, tube=VacuumTube(lit_m=0.7, ends_m=0.05), wings=Wings(material="smooth-foil", radius_m=0.06, below_m=0.055, open_deg=110.0),
    holder="pla-print", feet_m=0.26, weighs_kg=1.9,
)  # fmt: skip
FIELD_TEA = KettleWater(
    fill_l=0.9, start_c=16.0, pours=[Pour(goes_in="08:30", wanted_at="10:00"), Pour(goes_in="14:00", wanted_at="16:00")]
)
"""Tea at ten and at four at the orchard's edge: filled to the brim, wings flung wide."""
KETTLE_TRUTH = Truth(calibration=Calibration(optical=0.84, loss=1.05), noise_k=0.3, seed=95)
"""Foil that was folded once too often."""
DAIRY_TUBES = TubeRow(
    facing_deg=180.0, tilt_deg=50.0, count=12, tube=VacuumTube(lit_m=1.5, ends_m=0.1, end_w_k=0.05), behind=SheetBehind(material="printing-plate", away_m=0.07),
)  # fmt: skip
DAIRY_TANK = LoopTank(
    fill_l=150.0, start_c=16.0, warm_c=45.0, want_l=90.0, want_at="18:30", tall_m=1.1, above_m=-1.2, lagging=[WallLayer(material="sheep-wool", thickness_m=0.08)],
    pump=Pump(head_m=4.0, free_l_min=14.0, motor_w=18.0, l_min=1.5, how="difference"), check_valve=True, exchanger=Exchanger(),
    run=PipeRun(there_m=5.0, back_m=5.0, material="copper", bore_mm=13.0, outer_mm=15.0, lagging_mm=19.0), draws=[Draw(at="18:30", take_l=60.0, l_min=6.0)],
)  # fmt: skip
"""Twelve vacuum tubes on the dairy's wall and a tank for the pails, winter too."""

LOOP_TRUTH = Truth(calibration=Calibration(optical=0.95, loss=1.1), noise_k=0.2, seed=97)
AUTUMN_BEGAN, AUTUMN_DAYS = "2024-09-08T17:00:00+02:00", 32

FIG_DRYER = FoodDryer(
    facing_deg=180.0, tilt_deg=32.0, collector=AirCollector(width_m=0.8, length_m=1.5, absorber="mesh", cover=GlazedCover(material="old-window-glass", thickness_m=0.003)),
    width_m=0.8, depth_m=0.5, trays=Trays(count=5), vent=Vent(area_cm2=250.0), wheels=Wheels(track_m=0.6, folds=True), stands_m=0.35,
)  # fmt: skip
FIGS = FoodTrays(
    foods=[
        *(FoodOnTray(tray=k, food="fig", kg=0.45) for k in (1, 2, 3)),
        *(FoodOnTray(tray=k, food="tomato", kg=0.4) for k in (4, 5)),
    ]
)
"""Figs below, where it is warmest, tomatoes above."""
FIG_TRUTH = Truth(calibration=Calibration(optical=0.95, parts={"drying": 0.85}), noise_k=0.3, seed=98)
"""Figs with thicker skins than the table's."""
FIG_BEGAN, FIG_DAYS = "2024-09-10T09:00:00+02:00", 5
STORM_HOUR, STORM_ENDS_H = 14.5, 33.0
"""Hours after the first midnight, less a day, between which a storm stood over the second afternoon and the night after it."""
GLASS_CABINET = FoodDryer(
    facing_deg=180.0, tilt_deg=30.0, collector=AirCollector(width_m=0.6, length_m=1.0, absorber="plate", air="under"), cover=GlazedCover(material="window-glass", thickness_m=0.004),
    glass_tilt_deg=12.0, width_m=0.6, depth_m=0.5, lining="pale-paint", trays=Trays(count=4), inlet=Inlet(area_cm2=200.0), vent=Vent(area_cm2=60.0),
)  # fmt: skip
APPLES = FoodTrays(foods=[FoodOnTray(tray=k, food="apple", kg=0.5, goes_in="09:30") for k in (1, 2, 3, 4)])
"""Browned on top and still wet below."""
GLASS_TRUTH = Truth(calibration=Calibration(optical=0.97), noise_k=0.3, seed=99)
SKETCH_DRYER = FoodDryer(
    facing_deg=150.0, tilt_deg=20.0, collector=AirCollector(width_m=0.7, length_m=1.3, absorber="ducts", ducts=7, duct_mm=90.0, back=[WallLayer(material="plywood", thickness_m=0.009)]),
    width_m=0.7, depth_m=0.5, trays=Trays(count=6), inlet=Inlet(area_cm2=500.0), vent=Vent(area_cm2=320.0), leak_cm2=60.0,
)  # fmt: skip
PLUMS = FoodTrays(foods=[FoodOnTray(tray=k, food="plum", kg=0.5) for k in (1, 2, 3)])
SKETCH = FoodDryer(
    facing_deg=180.0, tilt_deg=45.0, collector=AirCollector(width_m=1.0, length_m=2.0, absorber="screens", layers=2, open_share=0.45, wire_mm=1.5, back=[WallLayer(material="plywood", thickness_m=0.009), WallLayer(material="pir-foam", thickness_m=0.03)]),
    width_m=0.7, depth_m=0.5, trays=Trays(count=6), inlet=Inlet(area_cm2=500.0), vent=Vent(area_cm2=120.0), leak_cm2=10.0,
)  # fmt: skip
PROMISED_C = 65.0
"""What the sketch promised, and did not say where."""

CHESTNUT_KILN = LumberKiln(
    facing_deg=178.0, tilt_deg=42.0, length_m=3.4, depth_m=2.1, front_m=0.9, roof_m=2.5, frame_share=0.1, cover=GlazedCover(material="old-window-glass", thickness_m=0.003, layers=1, more=[Sheet(material="thermic-pe-film", thickness_m=0.0002, gap_m=0.03)], gap_m=0.02),
    baffle=Baffle(share=0.95, gap_m=0.14), fan=KilnFan(count=1, free_m3_h=2600.0, driven="panel", panel_w=120.0, power_w=65.0), vents=KilnVents(low_cm2=350.0, high_cm2=350.0, apart_m=1.3, open_share=0.3), leak_cm2=160.0,
)  # fmt: skip
"""Old windows with a film over them, foam in the walls."""
CHESTNUT_AND_POPLAR = LumberCharge(
    groups=[
        BoardGroup(species="sweet-chestnut", thickness_mm=54, width_mm=220, length_m=2.6, wood_m3=0.45, start="measured", start_mc=0.42, target_mc=0.10, in_on=date(2025, 4, 22)),
        BoardGroup(species="poplar", thickness_mm=27, width_mm=180, length_m=2.6, wood_m3=0.4, start="measured", start_mc=1.1, target_mc=0.12, in_on=date(2025, 5, 12)),
    ],
    sticker_mm=25.0, sticker_apart_m=0.45, stack_deep_m=1.2, end_paint="wax-emulsion", weights_kg_m2=60.0,
)  # fmt: skip
"""Chestnut since April, poplar laid on top in May."""
KILN_TRUTH = Truth(calibration=Calibration(optical=0.95, leak=1.4, parts={"drying": 0.85}), noise_k=0.4, seed=101)
"""A draughty ridge, and chestnut that gives its water up more slowly than the table says."""
KILN_BEGAN = "2025-04-22T09:00:00+02:00"
FILM_KILN = LumberKiln(
    facing_deg=180.0, tilt_deg=45.0, length_m=3.0, depth_m=1.9, front_m=0.8, roof_m=2.3, cover=GlazedCover(material="thermic-pe-film", thickness_m=0.0002, layers=2, gap_m=0.03),
    wall=[WallLayer(material="pine-board", thickness_m=0.02)], floor=[WallLayer(material="pine-board", thickness_m=0.025)], leak_cm2=260.0, vents=KilnVents(low_cm2=500.0, high_cm2=500.0, apart_m=1.2, open_share=0.5),
)  # fmt: skip
OAK = LumberCharge(
    groups=[
        BoardGroup(species="european-oak", thickness_mm=27, width_mm=160, length_m=2.4, wood_m3=0.35, start="green-heart", target_mc=0.10),
        BoardGroup(species="scots-pine", thickness_mm=27, width_mm=140, length_m=2.4, wood_m3=0.25, start="green-sap", target_mc=0.12),
    ],
    stack_deep_m=1.1,
)  # fmt: skip
"""Green oak beside pine, in the airy kiln."""


BARN_KILN = LumberKiln(
    facing_deg=172.0, tilt_deg=42.0, length_m=3.6, depth_m=2.0, front_m=0.85, roof_m=2.4, rear_m=2.3, cover=GlazedCover(material="thermic-pe-film", thickness_m=0.0002, layers=2, gap_m=0.03), baffle=Baffle(share=0.95),
    wall=[WallLayer(material="plywood", thickness_m=0.009), WallLayer(material="eps-foam", thickness_m=0.04), WallLayer(material="plywood", thickness_m=0.009)], fan=KilnFan(count=1, free_m3_h=2500.0, driven="panel", panel_w=100.0, power_w=60.0),
    vents=KilnVents(low_cm2=300.0, high_cm2=300.0, open_share=0.2), leak_cm2=140.0, door=Door(way="end-door", wide_m=0.9, high_m=1.9), frame=Frame(timber="pine", treated="brushed", stands="soil"),
)  # fmt: skip
"""Two films over a frame that stands in the soil."""
BARN_LOAD = LumberCharge(
    groups=[BoardGroup(species="poplar", thickness_mm=27, width_mm=180, length_m=2.4, wood_m3=0.7, start="air-dried", target_mc=0.08)]
)  # fmt: skip


def storm_week() -> Weather:
    """A September week with a storm on its second afternoon."""
    began = datetime.fromisoformat(FIG_BEGAN).date()
    day = ClearDay(tmin_c=15.0, tmax_c=27.0, rh=0.55, wind_m_s=1.5)
    plain = weather_of(TERRACE, day, Span(start=began, days=FIG_DAYS, step_s=60))
    hours = (plain.sun.time_s - plain.start_s) / 3600.0 - 24.0
    storm = (hours >= STORM_HOUR) & (hours < STORM_ENDS_H)
    dark = np.where(storm, 0.25, 1.0)
    return replace(
        plain, dni_w_m2=np.where(storm, 0.0, plain.dni_w_m2), dhi_w_m2=np.where(storm, 0.25 * plain.ghi_w_m2, plain.dhi_w_m2), ghi_w_m2=plain.ghi_w_m2 * dark,
        air_c=np.where(storm, np.minimum(plain.air_c, 17.0), plain.air_c), rh=np.where(storm, 0.95, plain.rh),
    )  # fmt: skip


LIDS = Samples(
    facing_deg=180.0,
    tilt_deg=15.0,
    shape="disc",
    width_m=0.10,
    sheet=WallLayer(material="sheet-steel", thickness_m=0.0003),
    samples=[
        Sample(name="bare", title="bare lid", finish="bright-steel", coats=0, is_control=True),
        Sample(name="stove", title="stove paint", finish="flat-black-paint", price_m2=3.2),
        Sample(name="barbecue", title="barbecue spray", finish="barbecue-black", price_m2=4.6),
        Sample(name="chalk", title="chalkboard paint", finish="chalkboard-paint", price_m2=3.9),
        Sample(name="satin", title="satin black", finish="satin-black-paint", price_m2=2.4),
        Sample(name="optical", title="optical black", finish="super-black-paint", price_m2=38.0),
    ],
    columns=3,
    spacing_m=0.04,
    board=[WallLayer(material="plywood", thickness_m=0.012)],
    board_finish="bare-wood",
    contact="lying",
)
BLOCKS = Samples(
    facing_deg=180.0,
    tilt_deg=70.0,
    width_m=0.22,
    length_m=0.11,
    sheet=WallLayer(material="brick-layer", thickness_m=0.06),
    samples=[
        Sample(name="natural", title="natural", finish="red-brick", coats=0, is_control=True),
        Sample(name="pale", title="pale", finish="pale-paint", price_m2=1.9),
        Sample(name="dark", title="dark", finish="flat-black-paint", price_m2=3.2),
    ],
    columns=3,
    spacing_m=0.03,
    board=[WallLayer(material="xps-foam", thickness_m=0.04), WallLayer(material="plywood", thickness_m=0.009)],
    board_finish="bare-wood",
    cover=GlazedCover(material="window-glass", thickness_m=0.004, layers=1),
    air_space_m=0.03,
)
LIDS_TRUTH = Truth(
    calibration=Calibration(
        loss=1.15,
        parts={"absorptance:sample-chalk": 0.985, "absorptance:sample-bare": 1.12, "absorptance:sample-optical": 0.985},
    ),
    noise_k=0.15,
    seed=77,
)
"""A little more wind on the roof than was noted, a dull bare lid, and an optical black that is not what its tin says."""
BLOCKS_TRUTH = Truth(calibration=Calibration(parts={"absorptance:sample-natural": 1.08}), noise_k=0.3, seed=78)

TRUTH = Truth(calibration=Calibration(optical=0.94, loss=1.05, leak=4.0), noise_k=0.5, seed=41)
"""The oven as it really is: a dusty mirror and a seal that leaks a good deal more than it should."""


def autumn_truth() -> Truth:
    """Last autumn as it really was: a weather that nobody made up beforehand, dust on the hose, and a timer that ended two hours early."""
    began = datetime.fromisoformat(AUTUMN_BEGAN)
    records = made_up_weather(TERRACE, began.date() - timedelta(days=1), AUTUMN_DAYS + 3, seed=24)
    weather = weather_of(TERRACE, records, Span(start=began.date(), days=AUTUMN_DAYS + 1, step_s=300))
    assert GARDEN_POOL.pump is not None
    early = GARDEN_POOL.model_copy(
        update={"start_c": 24.0, "pump": GARDEN_POOL.pump.model_copy(update={"ends": "15:00"})}
    )
    return Truth(calibration=Calibration(optical=0.95), noise_k=0.15, seed=96, load=early, weather=weather)


def example_case() -> Case:
    """The oven on the demo's day, as the example file holds it."""
    return Case(
        name="Hatbox oven, chickpea stew",
        site=TERRACE,
        spot="terrace",
        build=OVEN,
        load=STEW,
        weather=ClearDay(tmin_c=15.0, tmax_c=26.5, rh=0.54, wind_m_s=2.0),
        span=Span(start=date(2025, 6, 12)),
    )


def example_samples() -> Case:
    """The lids on the demo's day, as the second example file holds them."""
    return Case(
        name="Six tin lids, five coatings",
        site=TERRACE,
        spot="flat roof",
        build=LIDS,
        load=None,
        weather=ClearDay(tmin_c=15.0, tmax_c=26.5, rh=0.54, wind_m_s=1.5),
        span=Span(start=date(2025, 6, 12)),
    )


def _example(name: str, spot: str, build: Build, load: Load | None) -> Case:
    return Case(
        name=name, site=TERRACE, spot=spot, build=build, load=load,
        weather=ClearDay(tmin_c=15.0, tmax_c=26.5, rh=0.54, wind_m_s=2.0), span=Span(start=date(2025, 6, 12)),
    )  # fmt: skip


def examples() -> dict[str, Case]:
    """Every example file's case, by the file's name."""
    return {
        "oven-box": example_case(),
        "samples-lids": example_samples(),
        "oven-card-box": _example("Card box, two biscuits", "terrace", WORKSHOP, BISCUITS),
        "oven-funnel": _example("Folding funnel, flat loaf", "terrace", FUNNEL, FLAT_LOAF),
        "oven-dish": _example("Harvest dish, beans under pressure", "orchard edge", DISH, CREW_POT),
        "melter-cappings": _example("Cappings melter", "flat roof", MELTER, CAPPINGS),
        "water-batch-box": _example("Wash-house heater, four showers", "terrace", HEATER, SHOWERS),
        "water-hose-coil": _example("Basin hose, three litres at noon and at five", "terrace", BASIN_HOSE, BASIN),
        "water-pergola-tubes": _example(
            "Pergola tubes, a barrel without a pump", "terrace", PERGOLA_TUBES, PERGOLA_BARREL
        ),
        "water-plunge-tub": _example("Plunge tub, one frame and a timer", "terrace", TUB_FRAME, PLUNGE_TUB),
        "water-garden-pool": _example("Garden pool, two hundred metres of hose", "flat roof", POOL_COIL, GARDEN_POOL),
        "water-field-kettle": _example("Field kettle, tea at ten and at four", "orchard edge", FIELD_KETTLE, FIELD_TEA),
        "dryer-figs": _example("Fig dryer, figs and tomatoes, four days", "orchard edge", FIG_DRYER, FIGS).with_(
            weather=ClearDay(tmin_c=15.0, tmax_c=27.0, rh=0.55, wind_m_s=1.5),
            span=Span(start=date(2025, 9, 10), days=4),
        ),
        "dryer-glass-cabinet": _example("Glass-lidded cabinet, apple rings", "terrace", GLASS_CABINET, APPLES).with_(
            span=Span(start=date(2025, 9, 10), days=3)
        ),
        "kiln-chestnut-poplar": _example(
            "Chestnut kiln, chestnut and poplar, April to July", "orchard edge", CHESTNUT_KILN, CHESTNUT_AND_POPLAR
        ).with_(
            weather=ClearDay(tmin_c=11.0, tmax_c=22.0, rh=0.58, wind_m_s=2.0, sky="hazy"),
            span=Span(start=date(2025, 4, 22), days=90),
        ),
        "kiln-barn-poplar": _example("Barn kiln, poplar dried outside first", "terrace", BARN_KILN, BARN_LOAD).with_(
            span=Span(start=date(2025, 6, 12), days=20)
        ),
        "kiln-film-oak": _example("Film kiln, green oak and pine, a month of June", "terrace", FILM_KILN, OAK).with_(
            span=Span(start=date(2025, 6, 1), days=30)
        ),
        "water-dairy-tubes": _example("Dairy tubes, a tank for the pails", "flat roof", DAIRY_TUBES, DAIRY_TANK),
    }


def warm_case() -> None:
    """Run one day and trace one patch, so that everything compiled is in memory."""
    run_case(example_case())
    run_case(examples()["water-hose-coil"])
    bright_patch(OVEN, STEW, np.array([0.0, -0.5, 0.866]))


def demo_now() -> datetime:
    """Where the demo's clock starts."""
    return datetime.fromisoformat(NOW)
