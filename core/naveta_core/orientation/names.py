"""Names of points as people write them: the same number written in two forms, or two digits swapped."""

from __future__ import annotations

import re
from collections.abc import Iterable

_PARTS = re.compile(r"[A-Z]+|\d+")


def bare(name: str) -> tuple[str, ...]:
    """A name without case, blanks, dashes and leading zeros: 'pc 7' and 'PC-07' are both ('PC', '7')."""
    return tuple(part.lstrip("0") or "0" if part.isdigit() else part for part in _PARTS.findall(name.upper()))


def same(text: str, two: str) -> bool:
    """Whether two spellings mean one point."""
    return bare(text) == bare(two)


def near_misses(name: str, known: Iterable[str]) -> list[tuple[str, str]]:
    """Known names that may be meant: `[(name, why)]`: those spelt another way, else with swapped digits, else one apart."""
    sought, letters = bare(name), "".join(_PARTS.findall(name.upper()))
    rows: list[tuple[int, str, str]] = []
    for row in known:
        other, theirs = bare(row), "".join(_PARTS.findall(row.upper()))
        if row == name:
            continue
        if other == sought:
            rows.append((0, row, f"{row} is the same number written differently"))
        elif _swapped(letters, theirs):
            rows.append((1, row, f"{row} has two digits swapped"))
        elif _one_outlier(letters, theirs):
            rows.append((2, row, f"{row} differs by one character"))
    # A likelier slip leaves the others unsaid.
    likeliest = min((rank for rank, _, _ in rows), default=0)
    return [(row, why) for rank, row, why in sorted(rows) if rank == likeliest]


def _swapped(a: str, b: str) -> bool:
    if len(a) != len(b) or a == b:
        return False
    gap = [i for i in range(len(a)) if a[i] != b[i]]
    return len(gap) == 2 and gap[1] == gap[0] + 1 and a[gap[0]] == b[gap[1]] and a[gap[1]] == b[gap[0]]


def _one_outlier(a: str, b: str) -> bool:
    if abs(len(a) - len(b)) > 1 or a == b:
        return False
    if len(a) == len(b):
        return sum(x != y for x, y in zip(a, b, strict=True)) == 1
    short, long = sorted((a, b), key=len)
    return any(long[:i] + long[i + 1 :] == short for i in range(len(long)))
