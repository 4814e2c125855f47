"""A crew at the stand: the browser says what is seen and what to do, the mechanism is the world."""

from __future__ import annotations

import json
import math
import random
import re
from dataclasses import replace
from typing import Any

from playwright.sync_api import Page

from naveta_core.geometry import polar
from naveta_core.setup.equipment import ElectronicLevel, Equipment, PlateVial, Plummet, Tribrach
from naveta_core.setup.mechanism import State, carry_over, see, slide, stood, turn_screw, turn_to
from naveta_core.setup.mechanism import move_leg as leg_moved
from naveta_core.setup.tripod import even_feet
from tests.core.setup.world import follow_leg

from .conftest import visit

FIELD, RADIUS, MAX_BUBBLE, WALL_MM = 280.0, 108.0, (108.0 - 30.0) / 108.0, 5.0
INDEX = (7.0, -3.0)
RESTS_DIV, SECOND_RESTS_DIV, DIVISION = 0.8, -0.5, 20.0
WORLD = Equipment(
    leg_shortest_m=0.8,
    leg_longest_m=2.0,
    electronic=ElectronicLevel(INDEX[0], INDEX[1], range_arcmin=600.0),
    plate=PlateVial(DIVISION, end_div=12.0, error_div=RESTS_DIV),
    plummet=Plummet(error_x_arcsec=20.0),
)
FOUR = replace(WORLD, tribrach=Tribrach(screws=4, bearings_deg=(0.0, 90.0, 180.0, 270.0)))


LEVEL_TYPES = {"electronic": "Electronic level", "plate": "One plate vial", "two-plates": "Two plate vials"}


class Crew:
    """Looks at the world, says the page, does what the page says, a little clumsily."""

    def __init__(
        self,
        page: Page,
        state: State,
        rng: random.Random,
        equipment: Equipment = WORLD,
        *,
        level_type: str = "electronic",
        swings: bool = False,
    ) -> None:
        self.page, self.state, self.rng, self.equipment = page, state, rng, equipment
        self.level_type, self.swings = level_type, swings
        self.now = page.locator("[data-at-hand]")
        self.steps: list[str] = []

    @property
    def step(self) -> str:
        return self.now.get_attribute("data-at-hand") or ""

    def answered(self) -> None:
        """Wait until the page shows the advice for the last input."""
        self.page.evaluate("new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
        self.page.wait_for_selector("[data-at-hand][data-fresh=true]")

    def advice(self) -> dict[str, Any]:
        return dict(json.loads(self.now.get_attribute("data-advice") or "{}"))

    def within_tolerance(self) -> bool:
        return self.now.get_attribute("data-enough") == "true"

    def press(self, name: str) -> None:
        self.now.get_by_role("button", name=re.compile(name)).first.click()
        self.answered()

    def touch(self, bearing: float, share: float) -> None:
        """Touch the drawing where a bearing and a share of its radius are, for somebody who stands south."""
        box = self.page.locator("[data-field]").bounding_box()
        assert box is not None
        scale, angle = box["width"] / FIELD, math.radians(bearing)
        x = (FIELD / 2 + RADIUS * share * math.sin(angle)) * scale
        y = (FIELD / 2 - RADIUS * share * math.cos(angle)) * scale
        self.page.locator("[data-field]").click(position={"x": x, "y": y})
        self.answered()

    def report_spot(self) -> None:
        spot = see(self.equipment, self.state).spot_mm
        assert spot is not None
        bearing, size = polar(*spot)
        span = next(count for count in (4, 12, 40) if size <= count or count == 40)
        self.page.get_by_role("button", name=f"{span} mm", exact=True).click()
        self.touch(bearing, min(1.0, size / span))

    def enter_bubble(self) -> None:
        seen = see(self.equipment, self.state)
        self.touch(seen.bubble_bearing_deg, 1.0 if seen.at_wall else seen.bubble_mm / WALL_MM * MAX_BUBBLE)

    def figures(self, heading: float) -> tuple[str, str]:
        """The level read at a heading: both figures of the electronic one, or to a tenth of a division of a vial."""
        seen = see(self.equipment, turn_to(self.state, heading))
        if self.level_type == "electronic":
            return f"{seen.along_arcsec:.0f}", f"{seen.across_arcsec:.0f}"
        # The one vial a quarter turn on; of two vials the second one's plus end is a quarter on, with a rest of its own.
        later = see(self.equipment, turn_to(self.state, heading + 90.0))
        assert seen.plate_div is not None
        assert later.plate_div is not None
        second = later.plate_div - (RESTS_DIV - SECOND_RESTS_DIV if self.level_type == "two-plates" else 0.0)
        return f"{seen.plate_div:.1f}", f"{second:.1f}"

    def turn_screws(self) -> None:
        turns = {int(name): amount * self.rng.uniform(0.93, 1.07) for name, amount in self.advice()["turns"].items()}
        self.state = turn_screw(self.equipment, self.state, turns)

    def take_step(self) -> None:
        """One step: say, follow, look again or go on."""
        step = self.step
        self.steps.append(step)
        {
            "near": self._near,
            "over": self._near,
            "bob": self._bob,
            "four": self._plate,
            "ring-round": self._ring,
            "back-on": self._by_screws,
            "circular": self._circular,
            "circular-screws": self._by_screws,
            "plate": self._plate,
            "shift": self._shift,
            "slide": self._slide,
            "turn-round": self._round,
        }.get(step, lambda: self.press("^Done"))()

    def _near(self) -> None:
        self.report_spot()
        if self.within_tolerance():
            return self.press("^Next")
        spot = see(self.equipment, self.state).spot_mm
        assert spot is not None
        self.state = carry_over(self.state, -spot[0] * 0.9, -spot[1] * 0.95)
        self.press("look again")

    def _bob(self) -> None:
        if not self.swings:
            return self._near()
        spot = see(self.equipment, self.state).spot_mm
        assert spot is not None
        self.page.get_by_role("radio", name="Swinging").click()
        # Standing south: east is right; a quarter round, from the east, north is. Swinging 7 mm to either side.
        for i, end in enumerate((spot[0] - 7, spot[0] + 7, spot[1] - 7, spot[1] + 7)):
            self.page.locator(f"#swing-{i}").fill(f"{end + self.rng.uniform(-0.4, 0.4):.1f}")
        self.press("^Enter")
        if self.within_tolerance():
            return self.press("^Next")
        self.state = carry_over(self.state, -spot[0] * 0.95, -spot[1] * 0.95)
        self.press("look again")

    def _by_screws(self) -> None:
        self.report_spot() if self.step == "back-on" else self.enter_bubble()
        if self.within_tolerance():
            return self.press("^Next")
        self.turn_screws()
        self.press("look again")

    def _circular(self) -> None:
        self.enter_bubble()
        if self.within_tolerance():
            return self.press("^Next")
        for step in self.advice()["steps"]:
            if not see(self.equipment, self.state).in_ring:
                self.state = follow_leg(self.equipment, self.state, step)
        self.press("look again")

    def _plate(self) -> None:
        along, across = self.figures(0.0)
        self.page.locator("#level-along").fill(along)
        self.page.locator("#level-across").fill(across)
        self.press("^Enter")
        # Until the half turn nobody knows where a vial rests: set to its middle it stands, off by its rest.
        if self.within_tolerance():
            return self.press("^Next")
        self.turn_screws()
        self.press("look again")

    def _shift(self) -> None:
        self.report_spot()
        if self.within_tolerance():
            return self.press("^Next")
        for leg, mm in self.advice()["legs"].items():
            self.state = leg_moved(self.equipment, self.state, leg, mm)
        self.press("^Done")

    def _slide(self) -> None:
        self.report_spot()
        if self.within_tolerance():
            return self.press("^Next")
        found = self.advice()
        method = math.radians(found["slide_bearing_deg"])
        step = (found["slide_mm"] * math.sin(method), found["slide_mm"] * math.cos(method))
        self.state = slide(self.equipment, self.state, *step, turn_deg=self.rng.uniform(-2, 2))
        self.press("^Done")

    def _ring(self) -> None:
        self.page.get_by_role("radio", name="stays in its ring").click()
        self.answered()

    def _round(self) -> None:
        inputs = [*self.figures(0.0), *self.figures(180.0)]
        for i, figure in enumerate(inputs):
            self.page.locator(f"#round-{i}").fill(figure)
        self.answered()
        if self.within_tolerance():
            return self.press("^Next")
        self.turn_screws()
        self.press("look again")


def begin(page: Page, method: str, tag: str = "TS-03", level_type: str = "electronic") -> None:
    visit(page, "/set-up")
    page.get_by_role("button", name=tag).click()
    page.locator("#mark").fill("PC-14")
    page.get_by_role("radio", name=LEVEL_TYPES[level_type]).click()
    page.locator(f"[data-method={method}]").click()
    page.get_by_role("button", name="Guide me").click()
    page.wait_for_selector("[data-at-hand][data-fresh=true]")


def wild(rng: random.Random, equipment: Equipment = WORLD) -> State:
    """Stood up in a hurry: 25 to 35 mm off the mark, the head a degree or so off level."""
    state = stood(equipment, even_feet(1.0), 1.45)
    state = carry_over(state, rng.choice((-1, 1)) * rng.uniform(18, 25), rng.uniform(18, 25))
    for leg in "ABC":
        state = leg_moved(equipment, state, leg, rng.uniform(-8, 8))
    return state


QUICK = ("round-0", "round-1", "round-2", "round-3", "centring", "height-0", "height-1")


def fill_quick(page: Page, centring: str = "0.3", heights: tuple[str, str] = ("1.603", "1.604")) -> None:
    """A set-up recorded at once: level readings in both positions, what is off the mark, the height twice."""
    for name, text in zip(QUICK, ("4", "-2", "-2", "6", centring, *heights), strict=True):
        page.locator(f"#{name}").fill(text)
    page.get_by_label("I checked bubble and mark together").check()
