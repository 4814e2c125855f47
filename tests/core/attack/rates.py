"""The rates the attack touched: name, what is asked, what a sound judgement gives, and the simulation of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from tests.core.plain import advise

from . import crews
from .crews import RHO, Data, Rng, judged, part

Sample = Callable[[Rng], bool]


@dataclass(frozen=True)
class Rate:
    """A share that should lie between `low` and `high`; `once` says of one simulated check whether it counts."""

    name: str
    low: float
    high: float
    once: Sample
    runs: int = 400
    few: int = 120
    """So many in the gate."""


def share(rate: Rate, runs: int | None = None, seed: int = 20270302) -> float:
    """How often it counts, over seeded runs."""
    rng = np.random.default_rng(seed)
    count = runs or rate.runs
    return sum(rate.once(rng) for _ in range(count)) / count


def grade(document: Data) -> str:
    return str(judged(document)["verdict"]["grade"])


def is_grade(make: Callable[[Rng], Data], wanted: str) -> Sample:
    return lambda rng: grade(make(rng)) == wanted


def holds(make: Callable[[Rng], Data], quantity: str, true: float) -> Sample:
    """Whether the truth lies inside the interval."""

    def once(rng: Rng) -> bool:
        entry = part(judged(make(rng)), quantity)
        return bool(abs(entry["value"] - true) <= entry["u95"])

    return once


def _worse(make: Callable[[Rng], Data]) -> Sample:
    def once(rng: Rng) -> bool:
        return "worse-than-stated" in [reason["code"] for reason in judged(make(rng))["verdict"]["reasons"]]

    return once


def _in_ellipse(rng: Rng) -> bool:
    document, (e, n) = crews.free_station(rng)
    found = judged(document)["result"]
    strength = found["strength"]
    b = np.radians(strength["bearing_deg"])
    de, dn = e - found["e_m"], n - found["n_m"]
    along, across = de * np.sin(b) + dn * np.cos(b), de * np.cos(b) - dn * np.sin(b)
    return bool((1000 * along / strength["longest_mm"]) ** 2 + (1000 * across / strength["shortest_mm"]) ** 2 <= 1)


def _suspected(kind: str, points: int, *, directions: bool = False) -> Sample:
    """Two names exchanged, or one point 5 m from its coordinates: named, and as what it is."""

    def once(rng: Rng) -> bool:
        document, _ = crews.free_station(rng, points=points)
        shots, control = document["observations"]["shots"], document["observations"]["control"]
        i, j = (int(k) for k in rng.choice(points, 2, replace=False))
        if kind == "swapped":
            shots[i]["point"], shots[j]["point"] = shots[j]["point"], shots[i]["point"]
        else:
            control[i]["e"] = f"{float(control[i]['e']) + 5:.4f}"
        if directions:
            for shot in shots:
                shot.pop("horizontal_distance")
        names = sorted((f"P{i}", f"P{j}")) if kind == "swapped" else [f"P{i}"]
        return bool(judged(document)["result"].get("suspect") == {"kind": kind, "names": names})

    return once


def _largest(rng: Rng) -> bool:
    """Whether the side that shows the largest shift holds its own true one."""
    true = dict.fromkeys(("toward", "away", "left", "right"), 0.0)
    found = judged(crews.compensator(rng, shifts=tuple(true.values())))
    entry = part(found, "largest_shift_arcsec")
    at = max(found["result"]["shifts"], key=lambda shift: abs(shift["shift_arcsec"]))["position"]
    return bool(abs(entry["value"] - true[at]) <= entry["u95"])


def _rounds(rng: Rng) -> bool:
    c, t = rng.uniform(-15, 15), rng.normal(0, 10)
    entry = part(judged(crews.rounds(rng, c=c, t=t)), "collimation_arcsec")
    return bool(abs(entry["value"] - c) <= entry["u95"])


def _stored_from_quick(rng: Rng) -> bool:
    document = crews.quick_two_face(rng, distance_m=100)
    return "adjust" in [step["code"] for step in judged(document)["verdict"]["next"]]


def _budget(angle: float, elevation: float) -> Sample:
    """A point set out over a backsight, the stand 2 mm off: within the total that was promised."""
    fields = {
        "advice": "budget",
        "back_m": 20,
        "fore_m": 40,
        "angle_deg": angle,
        "elevation_deg": elevation,
        "centring_mm": 2,
        "target_mm": 0,
        "both_faces": True,
        "angle_accuracy_arcsec": 1,
        "distance_accuracy_mm": 0.5,
    }
    total = advise(fields)["result"]["budgets"][1]["total95"]
    beta, steep = np.radians(angle), np.radians(elevation)

    def once(rng: Rng) -> bool:
        stand = rng.normal(0, 2e-3 / np.sqrt(2), 2)
        back = np.array([0.0, 20.0]) - stand
        bearing = np.arctan2(back[0], back[1]) + beta + rng.normal(0, 1 / RHO)
        far = (40 + rng.normal(0, 0.5e-3)) * np.cos(steep)
        point = stand + far * np.array([np.sin(bearing), np.cos(bearing)])
        wanted = 40 * np.cos(steep) * np.array([np.sin(beta), np.cos(beta)])
        return bool(1000 * np.hypot(*(point - wanted)) <= total)

    return once


RATES = (
    Rate("staff: known lengths as the sheet fills them, perfect: use", 0.3, 1.0, is_grade(crews.staff, "use")),
    Rate("staff: the same: use or watch", 0.97, 1.0, lambda r: grade(crews.staff(r)) in ("use", "watch")),
    Rate(
        "staff: foot worn by 10 mm: service", 0.95, 1.0, is_grade(lambda r: crews.staff(r, worn_mm=10), "service"), 200
    ),
    Rate(
        "staff: perfect, one slip of 8 mm: service",
        0.0,
        0.0,
        is_grade(lambda r: crews.staff(r, slip_mm=8, full=True), "service"),
    ),
    Rate(
        "tape: perfect, one slip of 8 mm: service",
        0.0,
        0.0,
        is_grade(lambda r: crews.tape(r, slip_mm=8, full=True), "service"),
    ),
    Rate(
        "tape: 1,000 ppm too long: service",
        0.95,
        1.0,
        is_grade(lambda r: crews.tape(r, scale_ppm=1000), "service"),
        200,
    ),
    Rate(
        "tripod: perfect, one slip of 8 mm: service",
        0.0,
        0.0,
        is_grade(lambda r: crews.tripod(r, slip_mm=8), "service"),
    ),
    Rate(
        "tape: temperature not told: scale holds",
        0.93,
        1.0,
        holds(lambda r: crews.tape(r, given_c=None, full=True), "scale_ppm", 0.0),
    ),
    Rate(
        "tape: band 3 K off the air: scale holds",
        0.93,
        1.0,
        holds(lambda r: crews.tape(r, off_k=3.0, full=True), "scale_ppm", 0.0),
    ),
    Rate(
        "tape: pulled 40 N too hard, not brought back: scale holds",
        0.93,
        1.0,
        holds(lambda r: crews.tape(r, tension="90", pull_ppm=77, full=True), "scale_ppm", 0.0),
    ),
    Rate(
        "staff: temperature not told: divisions hold",
        0.93,
        1.0,
        holds(lambda r: crews.staff(r, given_c=None, full=True), "scale_ppm", 0.0),
    ),
    Rate(
        "full levelling, 2 mm/km, whole mm: shown worse",
        0.0,
        0.09,
        _worse(lambda r: crews.full_levelling(r, mm_per_km=2.0, step_mm=1.0)),
        300,
    ),
    Rate(
        "full levelling, 1 mm/km, whole mm: shown worse",
        0.0,
        0.09,
        _worse(lambda r: crews.full_levelling(r, mm_per_km=1.0, step_mm=1.0)),
        300,
    ),
    Rate(
        "full directions, 7″ on a 20″ display: shown worse",
        0.0,
        0.1,
        _worse(lambda r: crews.full_directions(r, arcsec=7, step_arcsec=20)),
        150,
    ),
    Rate("pole vial of 20′, perfect: adjust", 0.0, 0.01, is_grade(lambda r: crews.pole(r, sensitivity=20), "adjust")),
    Rate("pole vial of 60′, perfect: adjust", 0.0, 0.01, is_grade(lambda r: crews.pole(r, sensitivity=60), "adjust")),
    Rate("plummet against a bob, perfect: adjust", 0.0, 0.02, is_grade(crews.plummet_by_bob, "adjust")),
    Rate("plummet against a bob, perfect: repeat", 0.0, 0.01, is_grade(crews.plummet_by_bob, "repeat")),
    Rate("free station: place inside the 95 % ellipse", 0.93, 1.0, _in_ellipse),
    *(
        Rate(f"free station, {n} points: two exchanged named", 0.98, 1.0, _suspected("swapped", n), 200, 40)
        for n in (3, 4, 6)
    ),
    Rate(
        "free station, 5 directions: two exchanged named", 0.98, 1.0, _suspected("swapped", 5, directions=True), 200, 40
    ),
    Rate("free station, 5 points: one 5 m off named", 0.98, 1.0, _suspected("point", 5), 200, 40),
    Rate("compensator: largest of four shifts holds", 0.94, 1.0, _largest),
    Rate("compensator: perfect fine level: use", 0.6, 1.0, is_grade(crews.compensator, "use")),
    Rate("rounds with one steep mark: c holds", 0.93, 1.0, _rounds),
    Rate(
        "quick two-face, 3″, perfect: adjust",
        0.0,
        0.005,
        is_grade(lambda r: crews.quick_two_face(r, distance_m=100), "adjust"),
    ),
    Rate("quick two-face: storing offered", 0.0, 0.0, _stored_from_quick),
    Rate("budget: fore sight opposite the backsight: within", 0.945, 1.0, _budget(180, 0), 2000),
    Rate("budget: square, 35° up: within", 0.945, 1.0, _budget(90, 35), 2000),
)
