"""Two-peg documents for tests, built the long way round: from a known error to readings."""

from __future__ import annotations

import json
from typing import Any

from naveta_core.registry import parse
from tests.core.plain import preview_of, reduce_of

RHO = 648000 / 3.141592653589793
CURVATURE = 0.87 / (2 * 6_371_000)


def raw(document: Any) -> bytes:
    return json.dumps(document).encode()


def document(*setups: tuple[float, Any, float, Any], **more: Any) -> dict[str, Any]:
    """setups: (distance A, reading or readings A, distance B, reading or readings B), as typed."""

    def sight(distance: Any, readings: Any) -> dict[str, Any]:
        listed = readings if isinstance(readings, list) else [readings]
        return {"distance": str(distance), "readings": [str(entry) for entry in listed]}

    observations = {"setups": [{"a": sight(da, ra), "b": sight(db, rb)} for da, ra, db, rb in setups]}
    observations.update(more.pop("observations", {}))
    return {"kind": "two-peg", "observations": observations, **more}


def reduce(fields: dict[str, Any]) -> dict[str, Any]:
    parsed = parse(raw(fields))
    return reduce_of(parsed.kind, parsed)


def preview(fields: dict[str, Any]) -> dict[str, Any]:
    parsed = parse(raw(fields))
    return preview_of(parsed.kind, parsed)


def staffs(c_arcsec: float, da: float, db: float, line: float = 1.6, rise: float = 0.3) -> tuple[float, float]:
    """True readings of staffs A and B for a level whose line of sight points c up; B stands `rise` higher."""
    c = c_arcsec / RHO
    return line + c * da + CURVATURE * da**2, line - rise + c * db + CURVATURE * db**2


def exact(c_arcsec: float, *pairs: tuple[float, float], copies: int = 1, **more: Any) -> dict[str, Any]:
    """A document without noise, the readings repeated `copies` times."""
    setups = []
    for da, db in pairs:
        a, b = staffs(c_arcsec, da, db)
        setups.append((da, [f"{a:.6f}"] * copies, db, [f"{b:.6f}"] * copies))
    return document(*setups, **more)


def codes(result: dict[str, Any], which: str = "reasons") -> list[str]:
    return [reason["code"] for reason in result["verdict"][which]]


NEAR = [(30, 30), (56, 4)]


def wired(unequal: float = 0.0, wrong: float = 0.0) -> dict[str, Any]:
    """A three-wire test; `unequal`: the upper interval is larger by this share of D; `wrong`: one misread wire, m."""
    setups = []
    for da, db in NEAR:
        a, b = staffs(3, da, db)
        sights = {}
        for name, d, m in (("a", da, a), ("b", db, b)):
            upper, lower = m + d / 200 + unequal * d + (wrong if d == 56 else 0), m - d / 200
            sights[name] = {"wires": [{"upper": f"{upper:.5f}", "middle": f"{m:.5f}", "lower": f"{lower:.5f}"}]}
        setups.append(sights)
    return {"kind": "two-peg", "observations": {"setups": setups}}
