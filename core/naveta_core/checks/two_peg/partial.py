"""What can be said before a test is complete: spreads, the running difference, what this layout can prove."""

from __future__ import annotations

from typing import Any

from ...blunders import find_apart
from ...readings import Sheet, ordinal
from ...wording import LengthWords, arcsec, count, length_words
from ...wording import limit as limit_words
from .judge import apart_text, limits_of
from .model import TwoPeg
from .read import Seen, where
from .solve import Priors, Setups, expected_u95, standardised

Data = dict[str, Any]
STICKING = (
    "A line that does not come back after a tap is a compensator that sticks: work for a service."
    " Hold the level; a peg test will not make it good."
)
BUBBLE = (
    "Set the circular bubble first: half of what it shows by the foot screws, half by the vial's own screws, until it"
    " holds all round. Then read."
)


def partial(document: TwoPeg, setups: Setups, sheet: Sheet) -> Data:
    """Everything that can be said already, in words and figures."""
    priors, words = Priors.of(document), length_words(document.units.length)
    return {
        "sights": _sights(document, setups, priors, words),
        "setups": [_difference(i, a, b, words) for i, (a, b) in enumerate(setups) if a.pointings and b.pointings],
        "expected": _expected(document, setups, priors) if sheet.missing or sheet.faults else None,
        "unit": words.name,
        "next": _next(sheet),
        "looks": _looks(document),
        "said": [],
    }


def _looks(document: TwoPeg) -> list[Data]:
    """What the two looks say before anything is read."""
    looks, said = document.observations.looks, []
    if looks.line_returns == "no":
        said.append({"code": "sticking", "text": STICKING})
    if looks.bubble_holds == "no":
        said.append({"code": "bubble-does-not-hold", "text": BUBBLE})
    return said


def _sights(document: TwoPeg, setups: Setups, priors: Priors, words: LengthWords) -> list[Data]:
    groups = standardised(setups, priors)
    found = find_apart(groups)
    rows = []
    for index, seen in enumerate(s for setup in setups for s in setup):
        if not seen.pointings:
            continue
        apart = found if found is not None and found.group == index else None
        rows.append(_sight(document, seen, words, None if apart is None else (apart.index, apart.sole_pair), priors))
    return rows


def _sight(document: TwoPeg, seen: Seen, words: LengthWords, apart: tuple[int, bool] | None, priors: Priors) -> Data:
    values = [p.m for p in seen.pointings]
    spread = max(values) - min(values)
    text = None
    if apart is not None:
        text = (
            "These two differ by more than reading explains: take a third."
            if apart[1]
            else apart_text(document, seen, apart[0], priors)
        )
    return {
        "path": seen.path,
        "count": len(values),
        "mean_m": seen.mean_m,
        "mean_text": f"{words.reading(seen.mean_m, 1)} {words.name}",
        "spread_m": spread,
        "text": f"spread {words.small(spread)}" if len(values) > 1 else None,
        "distance_m": seen.distance_m,
        "distance_text": words.distance(seen.distance_m) if seen.distance_m is not None else None,
        "apart": None if apart is None or apart[1] else seen.pointings[apart[0]].path,
        "apart_text": text,
    }


def _difference(index: int, a: Seen, b: Seen, words: LengthWords) -> Data:
    rise = a.mean_m - b.mean_m
    side = "above" if rise >= 0 else "below"
    text = f"{ordinal(index).capitalize()} set-up, as read: B {words.reading(abs(rise), 1)} {words.name} {side} A."
    return {"index": index, "difference_m": rise, "text": text}


def _expected(document: TwoPeg, setups: Setups, priors: Priors) -> Data | None:
    pairs = [(a.distance_m, b.distance_m) for a, b in setups if a.distance_m and b.distance_m]
    gaps = [a - b for a, b in pairs]
    if len(pairs) < 2 or max(gaps) - min(gaps) < 2:
        return None
    # As many at every sight as the fullest has: the sheet is still being filled.
    readings = max(1, *(len(s.pointings) for setup in setups for s in setup))
    u, limit = expected_u95(pairs, readings, priors), limits_of(document).use
    text = f"With {count(readings, 'reading', 'readings')} a sight this proves the line of sight to about ± {arcsec(u, u)}; the limit is {limit_words(limit)}."
    enough = next((n for n in range(readings, 11) if expected_u95(pairs, n, priors) <= limit / 2), None)
    advice = None
    if enough is None:
        advice = "However often it is read: take sights that differ more for a fine proof."
    elif enough > readings:
        advice = f"{count(enough, 'reading', 'readings').capitalize()} a sight make it a fine test."
    return {"u95_arcsec": u, "readings": readings, "enough": enough, "text": text, "advice": advice}


def _next(sheet: Sheet) -> Data | None:
    if not sheet.missing:
        return None
    path = sheet.missing[0]
    return {"path": path, "where": where(path)}
