"""A tripod: clamps, hinges and shoes looked at, and how far its head turns under a hand and springs back.

The instrument on it sights a scale held level across the sight. The hand turns the head lightly one way, lets go, then
the other: what the reading moves under the hand is the twist, what it does not come back by is what angles suffer.
"""

from __future__ import annotations

import random
from dataclasses import dataclass
from math import fsum, hypot, sqrt
from statistics import median
from typing import Any, Literal

from pydantic import Field as Bounds

from ..angles import ARCSEC_PER_RADIAN
from ..blunders import find_apart, repeats
from ..envelope import Envelope, Part, Typed
from ..judgement import SCATTER_REFUSED, Estimate, Limits, Spread, pooled, scatter_factor
from ..readings import Range, Sheet
from ..wording import arcsec, figure
from .sheet.acts import by_hand
from .sheet.answer import Recipe, SoFar
from .sheet.circumstances import Circumstances, Needs
from .sheet.entry import Asks, Field, Group, Option, Way, Where
from .sheet.judged import (
    Judged,
    Quantity,
    Said,
    effect,
    limits_from,
    line,
    name_apart,
    noise_factor,
    prior_dof,
    repeats_of,
    shown,
)
from .sheet.kinds import kind_of_rows
from .sheet.pictures import deviations
from .sheet.table import Table
from .sheet.typed import blank, number, rounding

Data = dict[str, Any]
SET, TWIST = "set_arcsec", "twist_arcsec"
DISTANCE = Range(5.0, 60.0, "a distance to the scale")
SCALE_MM = 0.2
"""A mark on a scale with millimetres, estimated through the telescope."""
RESTS_MM = 0.05
HAND_SHARE = 0.3
"""By how much a light hand differs from round to round."""
MOST_MM = 2000.0
CAUTIONS = {"before": ("pinch", "tread", "lift"), "reading": ("hold", "sun"), "adjusting": ("pinch", "leg-drops")}
LOOKS = (
    (
        "clamps_hold",
        "Do the clamps hold a leg that is pressed down?",
        "clamps-slip",
        "A clamp slips under load.",
        "tighten-clamps",
        "Clean and tighten the clamp; a worn one is replaced.",
    ),
    (
        "hinges_firm",
        "Does a leg, let go at an angle, stay for a moment and then fall slowly?",
        "hinges-loose",
        "A hinge has play, or binds.",
        "set-hinges",
        "Set the hinge bolts until a leg just holds by itself.",
    ),
    (
        "shoes_firm",
        "Are the shoes firm on the legs, points sharp?",
        "shoes-loose",
        "A shoe is loose or blunt.",
        "fix-shoes",
        "Fix the shoe; a blunt point is replaced.",
    ),
)
where = Where(
    {
        "rounds": "round",
        "free_mm": "let alone",
        "loaded_mm": "under the hand",
        "released_mm": "let go",
        "distance": "distance to the scale",
        **{name: asked.rstrip("?").lower() for name, asked, *_ in LOOKS},
    }
)
Look = Literal["yes", "no"] | None


class Round(Part):
    """The scale read with the head let alone, under the hand, and let go again, mm."""

    free_mm: Typed | None = None
    loaded_mm: Typed | None = None
    released_mm: Typed | None = None


class Observations(Part):
    clamps_hold: Look = None
    hinges_firm: Look = None
    shoes_firm: Look = None
    distance: Typed | None = None
    rounds: list[Round] = Bounds(default=[], max_length=20)


class Tripod(Envelope):
    """A check of a tripod."""

    kind: Literal["tripod"]
    observations: Observations


@dataclass
class Read:
    """Rounds as read, mm, and the distance, m."""

    rounds: list[tuple[str, float, float, float]]
    distance_m: float | None
    steps: list[float]


def _read(document: Tripod, sheet: Sheet) -> Read:
    o = document.observations
    length = sheet.length("observations.distance", where("distance"), o.distance, DISTANCE)
    rounds, steps = [], []
    names = ("free_mm", "loaded_mm", "released_mm")
    for i, one in enumerate(o.rounds):
        base, typed = f"observations.rounds[{i}]", [getattr(one, name) for name in names]
        if i >= 2 and blank(*typed):
            continue
        found = [
            number(sheet, f"{base}.{name}", where(f"{base}.{name}"), value, "mm", -MOST_MM, MOST_MM)
            for name, value in zip(names, typed, strict=True)
        ]
        free, loaded, released = found
        if free is not None and loaded is not None and released is not None:
            rounds.append((base, free.value, loaded.value, released.value))
            steps += [free.step, loaded.step, released.step]
    for i in range(len(o.rounds), 2):
        for name in names:
            sheet.want(f"observations.rounds[{i}].{name}", where(f"observations.rounds[{i}].{name}"))
    return Read(rounds, length.m if length else None, steps)


def _needs(_document: Tripod) -> Needs:
    return Needs(wind=True)


@dataclass(frozen=True, slots=True)
class Moves:
    """By round: what does not come back, plus the way the hand turned, and what it gave under the hand, mm."""

    sets: tuple[float, ...]
    twists: tuple[float, ...]
    within: float
    """Variance of one reading, mm²."""

    def without(self, i: int) -> Moves:
        return Moves(self.sets[:i] + self.sets[i + 1 :], self.twists[:i] + self.twists[i + 1 :], self.within)

    @property
    def spread(self) -> Spread:
        """How the rounds scatter in what does not come back: a difference of two readings each."""
        return repeats([[one / sqrt(2 * self.within) for one in self.sets]])


def _moves(read: Read, within: float) -> Moves:
    # Signed by the way the hand turned: noise of a reading then averages out, and coming back too far is minus.
    sets = [(released - free) if loaded >= free else (free - released) for _, free, loaded, released in read.rounds]
    return Moves(tuple(sets), tuple(abs(loaded - free) for _, free, loaded, _ in read.rounds), within)


def _estimates(document: Tripod, moves: Moves, within: float, scale: float) -> tuple[Estimate, Estimate]:
    """What does not come back, and what it gives, seconds."""
    n, dof = len(moves.sets), prior_dof(document)
    q = 2 * within / n * scale**2
    between = RESTS_MM**2 * scale**2
    kept = pooled(fsum(moves.sets) / n * scale, q, between, moves.spread, dof)
    # No two hands turn alike: what they give differs by more than reading does.
    hand = (HAND_SHARE * fsum(moves.twists) / n) ** 2 / n * scale**2
    return kept, pooled(fsum(moves.twists) / n * scale, q + hand, between, Spread(), dof)


def _apart(moves: Moves) -> int | None:
    """The round that stands apart from the others, or of which two differ."""
    sigma = sqrt(2 * moves.within)
    hand = hypot(sigma, HAND_SHARE * median(moves.twists))
    found = find_apart([[one / sigma for one in moves.sets], [one / hand for one in moves.twists]])
    return None if found is None else found.index


def _tell_scatter(judged: Judged, spread: Spread, dof: float) -> None:
    factor = scatter_factor(spread, dof)
    if factor is not None:
        text = f"The rounds fit each other {factor:.1f} times worse than such readings do: take them again, one hand, the feet trodden in."
        (judged.refused if factor > SCATTER_REFUSED else judged.reasons).append(("scatter", text))


def _judge(document: Tripod, read: Read, told: Circumstances) -> Judged:
    assert read.distance_m is not None
    scale = ARCSEC_PER_RADIAN / (read.distance_m * 1000)
    pointing = hypot(SCALE_MM, 30.0 / (document.instrument.magnification or 30.0) / scale)
    within = (pointing * noise_factor(document) * told.factor) ** 2 + rounding(read.steps)
    moves = _moves(read, within)
    kept_e, twist_e = _estimates(document, moves, within, scale)
    apart = _apart(moves)
    kept = [i for i in range(len(read.rounds)) if i != apart]
    q = 2 * within / len(moves.sets)
    left_out = [_estimates(document, moves.without(i), within, scale) if len(kept) > 1 else None for i in kept]
    rests = [
        tuple((read.rounds[i][0], one[at] if one else None) for i, one in zip(kept, left_out, strict=True))
        for at in (0, 1)
    ]
    source = "opening value for angles"
    quantities = [
        Quantity(SET, "what does not spring back", "arcsec", kept_e, limits_from(document, SET, Limits(5.0, 10.0, 60.0, source)), q * scale**2, 0.0,
                 condition="For levels and short angles; hands off between the faces.", turn="Tread the feet in afresh, tighten clamps and hinges, then run it again, as left.", without=rests[0]),
        Quantity(TWIST, "the twist under a hand", "arcsec", twist_e, limits_from(document, TWIST, Limits(30.0, 60.0, 120.0, source)), q * scale**2, 0.0,
                 condition="For levels; hands off the head while angles are read.", turn="Tighten hinges and clamps until nothing gives, then run it again, as left.", without=rests[1]),
    ]  # fmt: skip
    figures: Data = {
        SET: kept_e.value,
        f"sigma_{SET}": kept_e.sigma,
        TWIST: twist_e.value,
        f"sigma_{TWIST}": twist_e.sigma,
        "rounds": [
            {"twist_mm": abs(loaded - free), "set_mm": released - free} for _, free, loaded, released in read.rounds
        ],
        "repeats": repeats_of(moves.spread),
    }
    judged = Judged(
        quantities, figures, _finding(kept_e.value, kept_e.u95, twist_e.value, document), [shown(quantities[0], "Does not spring back by"), shown(quantities[1], "Turns under a hand by")],
        _worked(read, scale, kept_e.value, twist_e.value), [effect("at-50-m", f"What does not spring back is {figure(abs(kept_e.value) / ARCSEC_PER_RADIAN * 50_000, 1)} mm at 50 m, in every angle after a hand leant on it.")],
        one_more=("round", "rounds"), again="Tread the feet in afresh and take it once more. Both count together.", send="Put it out of use: joints that give for good are replaced.",
    )  # fmt: skip
    judged.repeats = moves.spread
    judged.reasons += _looked(document, judged)
    if apart is not None:
        path = read.rounds[apart][0]
        name_apart(judged, path, f"The {where(path)} does not fit the others: one slip would do that. Take it again.")
    elif len(moves.sets) > 1:
        _tell_scatter(judged, moves.spread, prior_dof(document))
    return judged


def _looked(document: Tripod, judged: Judged) -> list[Said]:
    said: list[Said] = []
    o = document.observations
    for name, _, code, text, act, mend in LOOKS:
        if getattr(o, name) == "no":
            said.append((code, text))
            judged.to_mend.append((act, mend))
    if any(getattr(o, name) is None for name, *_ in LOOKS):
        said.append(("not-looked", "Clamps, hinges and shoes were not all looked at."))
    return said


def _finding(kept: float, u: float, twist: float, document: Tripod) -> str:
    bad = [name for name, *_ in LOOKS if getattr(document.observations, name) == "no"]
    lead = f"{len(bad)} of three looks found something. " if bad else ""
    if abs(kept) <= u:
        return f"{lead}The head springs back, within ± {arcsec(u, u)}, after {arcsec(twist, 10)} under a hand."
    return f"{lead}After a hand let go the head stays {arcsec(abs(kept), u)} turned, ± {arcsec(u, u)}; under it it gave {arcsec(twist, 10)}."


def _worked(read: Read, scale: float, kept: float, twist: float) -> list[Data]:
    lines = [line(f"A millimetre at {figure(read.distance_m or 0, 1)} m", f"{figure(scale, 2)}″")]
    for i, (_, free, loaded, released) in enumerate(read.rounds, start=1):
        lines.append(
            line(
                f"Round {i}",
                f"let alone {figure(free, 1)}, under the hand {figure(loaded, 1)}, let go {figure(released, 1)} mm",
            )
        )
    lines.append(
        line(
            "Means, plus the way the hand turned: under it; what does not come back",
            f"{figure(twist, 1)}″; {figure(kept, 1)}″",
        )
    )
    return lines


def _picture(_document: Tripod, read: Read, judged: Judged | None) -> Data | None:
    if read.distance_m is None:
        return deviations("arcsec", [], None, "let alone", "")
    scale = ARCSEC_PER_RADIAN / (read.distance_m * 1000)
    marks: list[tuple[str, float, float | None]] = []
    for i, (_, free, loaded, released) in enumerate(read.rounds):
        marks.append((f"round {i + 1}, under the hand", 2.0 * i, (loaded - free) * scale))
        marks.append((f"round {i + 1}, let go", 2.0 * i + 1, (released - free) * scale))
    return deviations("arcsec", marks, judged.quantities[0].limits.use if judged else 5.0, "let alone", "")


def _so_far(document: Tripod, read: Read) -> SoFar:
    looked = [(code, text) for name, _, code, text, *_ in LOOKS if getattr(document.observations, name) == "no"]
    if not read.rounds or read.distance_m is None:
        return SoFar(looked)
    _, free, loaded, released = read.rounds[-1]
    scale = ARCSEC_PER_RADIAN / (read.distance_m * 1000)
    gave, stays = arcsec(abs(loaded - free) * scale, 10), arcsec(abs(released - free) * scale, 1)
    return SoFar([*looked, ("running", f"Last round: it gave {gave} under the hand, {stays} did not spring back.")])


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document. truth: `twist_arcsec` (15), `set_arcsec` (0), `distance` (20), `rounds` (4), `noise`."""
    distance, noise = truth.get("distance", 20.0), truth.get("noise", 1.0)
    scale = ARCSEC_PER_RADIAN / (distance * 1000)
    rounds, rest = [], rng.uniform(100, 900)
    for i in range(truth.get("rounds", 4)):
        way = 1 if i % 2 == 0 else -1
        free = rest
        loaded = rest + way * truth.get("twist_arcsec", 15.0) / scale
        rest += way * truth.get("set_arcsec", 0.0) / scale
        shown_mm = [one + rng.gauss(0, SCALE_MM * noise) for one in (free, loaded, rest)]
        rounds.append(
            dict(zip(("free_mm", "loaded_mm", "released_mm"), (f"{one:.1f}" for one in shown_mm), strict=True))
        )
    return {
        "kind": "tripod",
        "observations": {
            "clamps_hold": "yes",
            "hinges_firm": "yes",
            "shoes_firm": "yes",
            "distance": f"{distance:g}",
            "rounds": rounds,
        },
    }


YES_NO = (Option("yes", "Yes"), Option("no", "No"))
LOOK = Group(
    "observations",
    "First a look",
    tuple(Field(name, asked, kind="choice", options=YES_NO) for name, asked, *_ in LOOKS),
)
AT = Group("observations", "The scale", (Field("distance", "Distance to the scale", kind="length"),))
ROUNDS = Group("observations.rounds", "Under a hand", (Field("free_mm", "Let alone", "mm"), Field("loaded_mm", "Under the hand", "mm"), Field("released_mm", "Let go", "mm")), rows=True, most=20, more="One more round",
               row_titles=("clockwise", "anticlockwise", "clockwise", "anticlockwise"), note="Turn the head with two fingers, lightly, as one leans on it by mistake; the telescope stays clamped.")  # fmt: skip
RECIPE = Recipe("tripod", _read, _judge, _so_far, _picture, CAUTIONS, where, _needs)
TABLE = Table(
    "tripod",
    ("clamps_hold", "hinges_firm", "shoes_firm", "distance"),
    "rounds",
    ("free_mm", "loaded_mm", "released_mm"),
)
KIND = kind_of_rows(
    RECIPE,
    Tripod,
    TABLE,
    title="Tripod",
    acting=by_hand,
    applies_to=("tripod",),
    minutes=8,
    interval_days=180,
    bring=("An instrument that is fit for use, to look through", "A scale with millimetres held level at 15 to 25 m: a staff on its side", "The tripod's own key"),
    before_you_start=("Feet trodden in on firm ground, legs as for work.",),
    who_adjusts=("manager", "crew"),
    when_bad=(
        ("real", "Is it real?", "Tread the feet in afresh and take it once more. Both count together."),
        ("keep", "Keep what was found", "Save as found."),
        ("adjust", "Mend it", "Clamps, hinges and shoes with the tripod's own key. Then run it again, as left."),
        ("without", "Or do without it", "For a level it may do where it does not for angles."),
        ("look-back", "What was done with it since", "Angles that would not close, and closing looks that did not."),
    ),
    watch_condition="For levels only; hands off while reading.",
    main_quantity=SET,
    quantity_label="springing back",
    simulate=simulate,
    ways=(
        Way("four-rounds", "Four rounds", "Twice each way: what springs back and what does not.", {"rounds": [{}, {}, {}, {}]}, (LOOK, AT, ROUNDS),
            ("Sight the scale, clamp everything.", "Read it. Turn the head lightly with two fingers, read, let go, read.", "Then the other way; twice each.")),
    ),
    asks=Asks(wind=True, temperature=False),
    why="A head that turns under a hand and stays there is in every angle after it, and the instrument gets the blame.",
    order=75,
)  # fmt: skip
