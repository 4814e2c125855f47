"""One simulated field check a function: documents as a person types them, from a truth only the simulation knows."""

from __future__ import annotations

from typing import Any

import numpy as np

from naveta_core.registry import DOCUMENTS, document_of

Data = dict[str, Any]
Rng = np.random.Generator
RHO = 206264.806


def judged(document: Data) -> Data:
    """A document through the core's path."""
    parsed = document_of(document)
    return DOCUMENTS[parsed.kind].reduce(parsed).plain()


def part(result: Data, name: str) -> Data:
    return next(part for part in result["verdict"]["parts"] if part["quantity"] == name)


def day(rng: Rng) -> float:
    """How much better or worse than usual it is read today."""
    return float(rng.lognormal(0, 0.3))


def staff(
    rng: Rng,
    *,
    worn_mm: float = 0.0,
    given_c: float | None = 18.0,
    off_k: float = 0.0,
    slip_mm: float = 0.0,
    full: bool = False,
) -> Data:
    """A staff's graduations as the sheet fills them in ("1", not "1.0000"), taped to tenths of a millimetre.

    `full`: with every digit typed. The steel tape is true at 20 °C; it lies `off_k` from what is given, or at any temperature when nothing is.
    """
    marks = ("0.1", "0.5", "1", "1.5", "2", "2.5", "3")
    real = (given_c if given_c is not None else 20 + rng.normal(0, 10)) + off_k
    common, noise = rng.normal(0, 0.1), day(rng)
    rows = []
    for mark in marks:
        true = float(mark) - worn_mm / 1000
        taped = (true + common / 1000) / (1 + 11.5e-6 * (real - 20)) + rng.normal(0, 0.3 * noise) / 1000
        rows.append({"graduation": f"{float(mark):.4f}" if full else mark, "tape": f"{taped:.4f}"})
    if slip_mm:
        at = int(rng.integers(len(rows)))
        rows[at]["tape"] = f"{float(rows[at]['tape']) + rng.choice((-1, 1)) * slip_mm / 1000:.4f}"
    conditions = {} if given_c is None else {"temperature_c": given_c}
    looks = {"foot_firm": "yes", "joints_firm": "yes"}
    return {"kind": "staff", "conditions": conditions, "observations": {"sections": rows, **looks}}


def tape(
    rng: Rng,
    *,
    scale_ppm: float = 0.0,
    given_c: float | None = 12.0,
    off_k: float = 0.0,
    slip_mm: float = 0.0,
    tension: str = "50",
    pull_ppm: float = 0.0,
    full: bool = False,
) -> Data:
    """A tape over marks of known length ("10"), pulled at `tension`, its band `off_k` from the air."""
    real = (given_c if given_c is not None else 20 + rng.normal(0, 10)) + off_k
    common, noise, known_ppm = rng.normal(0, 0.1), day(rng), rng.normal(0, 15)
    rows = []
    for known in ("1", "10", "20", "30"):
        length = float(known) * (1 + known_ppm * 1e-6)
        stretched = 1 + 11.5e-6 * (real - 20) + pull_ppm * 1e-6
        reads = (length * (1 + scale_ppm * 1e-6) + common / 1000 + rng.normal(0, 0.3 * noise) / 1000) / stretched
        rows.append({"known": f"{float(known):.4f}" if full else known, "reads": f"{reads:.4f}"})
    if slip_mm:
        at = int(rng.integers(len(rows)))
        rows[at]["reads"] = f"{float(rows[at]['reads']) + rng.choice((-1, 1)) * slip_mm / 1000:.4f}"
    conditions = {} if given_c is None else {"temperature_c": given_c}
    return {"kind": "tape", "conditions": conditions, "observations": {"tension_n": tension, "lengths": rows}}


def tripod(rng: Rng, *, slip_mm: float = 0.0) -> Data:
    """A head that gives 12″ under a hand, a bit more or less each time, and springs back; a scale read at 20 m."""
    per_mm, rows, noise = RHO / 20_000, [], day(rng)
    for i in range(4):
        rest, method = 400.0, 1 if i % 2 == 0 else -1
        gave = method * 12 / per_mm * rng.normal(1, 0.2)
        read = [value + rng.normal(0, 0.2 * noise) for value in (rest, rest + gave, rest)]
        rows.append(dict(zip(("free_mm", "loaded_mm", "released_mm"), (f"{entry:.1f}" for entry in read), strict=True)))
    if slip_mm:
        row, name = rows[int(rng.integers(4))], str(rng.choice(("free_mm", "loaded_mm", "released_mm")))
        row[name] = f"{float(row[name]) + rng.choice((-1, 1)) * slip_mm:.1f}"
    looks = {"clamps_hold": "yes", "hinges_firm": "yes", "shoes_firm": "yes"}
    return {"kind": "tripod", "observations": {**looks, "distance": "20", "rounds": rows}}


def typed(value: float, step: float) -> str:
    """Read to a step, as a spreadsheet keeps it: zeros at the end dropped."""
    return f"{round(value / step) * step:.4f}".rstrip("0").rstrip(".")


def full_levelling(rng: Rng, *, mm_per_km: float, step_mm: float) -> Data:
    """Twenty pairs and twenty with the staffs exchanged, 60 m apart, read to `step_mm`: a level as good as stated.

    One difference scatters by s·√2/√(1000/60), each of its two readings by 1/√2 of that.
    """
    entry = mm_per_km / np.sqrt(1000 / 60)
    sets = []
    for _ in range(2):
        true = [(1250 + rng.uniform(0, 300) + 211.37, 1250 + rng.uniform(0, 300)) for _ in range(20)]
        true = [(b + 211.37, b) for _, b in true]
        read = [(a + rng.normal(0, entry), b + rng.normal(0, entry)) for a, b in true]
        sets.append(
            {"pairs": [{"a": typed(a / 1000, step_mm / 1000), "b": typed(b / 1000, step_mm / 1000)} for a, b in read]}
        )
    stated = {"levelling_accuracy_mm_per_km": mm_per_km}
    return {"kind": "levelling-accuracy", "instrument": stated, "observations": {"procedure": "full", "sets": sets}}


def degrees(value: float, step_arcsec: float = 0.1) -> str:
    """An angle read to a step, in decimal degrees with digits enough to hold it."""
    return f"{round(value * 3600 / step_arcsec) * step_arcsec / 3600 % 360:.8f}"


def dms(value: float, step_arcsec: float) -> str:
    """An angle read to whole steps of seconds, packed: 102.4320."""
    total = int(round(value * 3600 / step_arcsec) * step_arcsec) % (360 * 3600)
    return f"{total // 3600}.{total // 60 % 60:02d}{total % 60:02d}"


def full_directions(rng: Rng, *, arcsec: float, step_arcsec: int) -> Data:
    """Four series of three sets of five marks in both faces; a direction in both faces scatters by `arcsec`."""
    marks, sigma = (12.0, 71.3, 144.8, 213.1, 290.6), arcsec * np.sqrt(2)
    series = []
    for _ in range(4):
        sets = []
        for turned in (0.0, 60.0, 120.0):
            start = turned + rng.uniform(0, 0.1)
            faces = {}
            for face, half in (("left", 0.0), ("right", 180.0)):
                values = [start + mark + half + rng.normal(0, sigma) / 3600 for mark in marks]
                faces[face] = [{"target": str(k), "reading": dms(v % 360, step_arcsec)} for k, v in enumerate(values)]
            sets.append(faces)
        series.append({"sets": sets})
    observations = {"circle": "horizontal", "procedure": "full", "series": series}
    return {"kind": "direction-accuracy", "instrument": {"angle_accuracy_arcsec": arcsec}, "observations": observations}


def pole(rng: Rng, *, sensitivity: float) -> Data:
    """A pole's perfect vial, turned by quarters in its bipod; the bubble read to a tenth of a millimetre."""
    lean, noise, common = rng.normal(0, 0.8, 2), day(rng), rng.normal(0, 0.1, 2)
    rows = []
    for heading in (0, 90, 180, 270):
        t = np.radians(heading)
        turned = np.array([lean[0] * np.cos(t) - lean[1] * np.sin(t), lean[0] * np.sin(t) + lean[1] * np.cos(t)])
        x, y = turned + common + rng.normal(0, 0.3 * noise, 2)
        rows.append({"heading_deg": str(heading), "x_mm": f"{x:.1f}", "y_mm": f"{y:.1f}"})
    vial = {"sensitivity_arcmin_per_2mm": f"{sensitivity:g}"}
    return {"kind": "pole-vial", "observations": {"item": "pole", "method": "half-turn", "readings": rows, **vial}}


def plummet_by_bob(rng: Rng) -> Data:
    """A perfect optical plummet held against a bob that hangs within a millimetre."""
    hangs = rng.normal(0, 1.0, 2)
    marks = [{"x_mm": f"{x:.1f}", "y_mm": f"{y:.1f}"} for x, y in hangs + rng.normal(0, 0.3, (2, 2))]
    observations = {"method": "bob", "sets": [{"height_m": "1.5", "marks": marks}]}
    return {"kind": "plummet", "instrument": {"plummet": "optical"}, "observations": observations}


def compensator(rng: Rng, *, shifts: tuple[float, ...] = (0, 0, 0, 0), reading: str = "digital", n: int = 5) -> Data:
    """A fine level's staff readings at 45 m, the bubble in the middle and run to four sides; `shifts` in seconds."""
    w, b = (np.hypot(0.05, 0.003 * 45), np.hypot(0.05, 0.7 / RHO * 45_000)) if reading == "digital" else (0.54, 0.183)
    w, positions = w * day(rng), {}
    for name, shift in zip(("centre", "toward", "away", "left", "right"), (0, *shifts), strict=True):
        mean = 1.4 + shift / RHO * 45 + rng.normal(0, b) / 1000
        positions[name] = [f"{mean + rng.normal(0, w) / 1000:.5f}" for _ in range(n)]
    instrument = {"kind": "digital-level", "reading": reading, "levelling_accuracy_mm_per_km": 0.3}
    if reading == "digital":
        instrument["prior"] = {"staff_reading_mm": float(np.hypot(0.05, 0.003 * 45))}
    observations = {"distance": "45", "positions": positions, "returns": "yes"}
    return {"kind": "compensator-function", "instrument": instrument, "observations": observations}


def rounds(rng: Rng, *, c: float, t: float, steep_deg: float = 30.0) -> Data:
    """Two rounds of three directions in both faces, one of them steep; 3″ a pointing, c and a trunnion axis t."""
    marks = (("1", 14.0, 90.0), ("2", 97.0, 90.0), ("3", 231.0, steep_deg))
    sigma, noise = float(np.sqrt(3.0**2 + 1.0**2 + 1.0**2)), day(rng)
    listed = []
    for _ in range(2):
        start, common = rng.uniform(0, 90), rng.normal(0, 1.2, 2)
        sights = []
        for k, face in enumerate(("left", "right")):
            sign = 1 if face == "left" else -1
            for name, at, z in marks if face == "left" else marks[::-1]:
                zr = np.radians(z)
                off = sign * (c / np.sin(zr) + t / np.tan(zr)) + common[k] + rng.normal(0, sigma * noise) / np.sin(zr)
                hz = (start + at + (0 if face == "left" else 180) + off / 3600) % 360
                v = z if face == "left" else 360 - z
                sights.append({"target": name, "face": face, "hz": f"{hz:.6f}", "v": f"{v:.6f}"})
        listed.append({"pointings": sights})
    instrument = {"kind": "total-station", "angle_accuracy_arcsec": 3}
    return {
        "kind": "direction-rounds",
        "units": {"angle": "deg"},
        "instrument": instrument,
        "observations": {"rounds": listed},
    }


def quick_two_face(rng: Rng, *, distance_m: float) -> Data:
    """One pointing a face at a level mark with a perfect 3″ instrument."""
    sigma = np.sqrt(3.0**2 + 1.0**2 + (0.2 / 1000 / distance_m * RHO) ** 2) * day(rng)
    common = rng.normal(0, 1.2, 4)
    left = (30.0 + (common[0] + rng.normal(0, sigma)) / 3600, 90.0 + (common[1] + rng.normal(0, sigma)) / 3600)
    right = (210.0 + (common[2] + rng.normal(0, sigma)) / 3600, 270.0 + (common[3] + rng.normal(0, sigma)) / 3600)
    target: Data = {"distance_m": f"{distance_m:g}", "target_type": "plate"}
    for face, (hz, v) in (("left", left), ("right", right)):
        target[face] = [{"hz": degrees(hz, 1.0), "v": degrees(v, 1.0)}]
    instrument = {"kind": "total-station", "angle_accuracy_arcsec": 3, "stores": "error"}
    return {
        "kind": "two-face",
        "units": {"angle": "deg"},
        "instrument": instrument,
        "observations": {"targets": [target]},
    }


def free_station(rng: Rng, *, points: int = 4) -> tuple[Data, tuple[float, float]]:
    """Directions (3″) and distances (2 mm + 2 ppm) to points that stand 1 mm off their marks; and where it really stood."""
    place, turn, noise = rng.uniform(40, 60, 2), rng.uniform(0, 360), day(rng)
    control, shots = [], []
    for i in range(points):
        at = rng.uniform(0, 100, 2)
        seen = at + rng.normal(0, 1e-3, 2) - place
        far = float(np.hypot(*seen))
        if far < 10:
            at, seen, far = at + 30, seen + 30, float(np.hypot(*(seen + 30)))
        hz = np.degrees(np.arctan2(seen[0], seen[1])) - turn + rng.normal(0, 3 * noise) / 3600
        distance = far + rng.normal(0, np.hypot(2e-3, 2e-6 * far) * noise)
        control.append({"name": f"P{i}", "e": f"{at[0]:.4f}", "n": f"{at[1]:.4f}"})
        shots.append({"point": f"P{i}", "hz": f"{hz % 360:.6f}", "horizontal_distance": f"{distance:.4f}"})
    instrument = {"angle_accuracy_arcsec": 3, "distance_accuracy_mm": 2, "distance_accuracy_ppm": 2}
    document = {
        "kind": "free-station",
        "units": {"angle": "deg"},
        "instrument": instrument,
        "observations": {"control": control, "shots": shots},
    }
    return document, (float(place[0]), float(place[1]))
