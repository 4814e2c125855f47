"""The kit for a job: of everything that is fit, the instruments that need the fewest minutes of checks together.

Checks of several instruments share what is set out for them (a line of two firm points, a pair of targets), checks of
one instrument share its set-up. Exact: for every set of layouts that may be set out, each part of the kit takes the
cheapest instruments that need no other layout; the best of all sets is the best kit there is. Where minutes are equal,
fewer conditions count first, then what the crew holds already, then the tag.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import chain, combinations
from math import comb, prod

from ..checks import KINDS
from ..results import Answer
from ..units.formatting import count, joined
from .fitness import ROLE_WORDS, ROLES, CheckBefore, Fitness, needed_roles
from .needs import JobNeeds

MAX_LAYOUTS = 12
MAX_ALTERNATIVES = 3
Layout = tuple[str, str]
"""What is set out, and where."""
Cost = tuple[int, int, int, int]
"""Minutes, conditions, instruments the crew does not hold, place in the order of tags."""


class KitCheck(Answer):
    """A check of the kit in its place in the order, with the minutes it takes there; what it shares was counted once."""

    tag: str
    check: str
    title: str
    where: str
    why: str
    minutes: int
    shares: str
    """What it shares with a check before it, in words; "" where nothing."""


class Kit(Answer):
    """Instruments that serve the job together, the checks before it in order, and their minutes."""

    tags: list[str]
    minutes: int
    separately: str
    """What the same checks take one by one, in a sentence; empty where they share nothing."""
    checks: list[KitCheck]
    layouts: list[str]
    """What has to be set out."""
    text: str


class KitAnswer(Answer):
    """Every instrument with its fitness, the best kit, and what the crew could take instead."""

    fitness: list[Fitness]
    kit: Kit | None
    missing: list[str]
    """Parts of the kit for which too few instruments are fit."""
    alternatives: list[Kit]
    compared: int
    """How many kits there are."""
    exact: bool
    compared_text: str
    text: str


def kit_for(needs: JobNeeds, fitness: Sequence[Fitness]) -> KitAnswer:
    """The best kit of what is fit, and up to three others, each without one instrument of the best."""
    usable = [entry for entry in fitness if entry.fit != "not-fit"]
    roles = needed_roles(needs)
    missing = [_missing(role, number, usable) for role, number in roles.items()]
    missing = [text for text in missing if text]
    numbers = [sum(entry.role == role for entry in usable) for role in roles]
    compared = prod(comb(there, wanted) for there, wanted in zip(numbers, roles.values(), strict=True))
    if missing or not roles:
        return _nothing(fitness, missing, roles)
    best = _best(roles, usable)
    assert best is not None
    kit = _kit(best)
    return KitAnswer(
        fitness=list(fitness),
        kit=kit,
        missing=[],
        alternatives=_alternatives(roles, usable, best),
        compared=compared,
        exact=_exact(usable),
        compared_text=_compared(compared, exact=_exact(usable)),
        text=kit.text,
    )


def _nothing(fitness: Sequence[Fitness], missing: list[str], roles: dict[str, int]) -> KitAnswer:
    text = f"No fit kit: {joined(missing)} missing." if roles else "This job does not state its needs yet"
    return KitAnswer(
        fitness=list(fitness),
        kit=None,
        missing=missing,
        alternatives=[],
        compared=0,
        exact=True,
        compared_text="",
        text=text,
    )


def _missing(role: str, number: int, usable: Sequence[Fitness]) -> str:
    short = number - sum(entry.role == role for entry in usable)
    if short <= 0:
        return ""
    return count(short, *ROLE_WORDS[role])


def _compared(kits: int, *, exact: bool) -> str:
    if kits == 1:
        return "This is the only fit kit."
    if not exact:
        return f"There are {kits} fit kits, too many to compare all."
    return f"No fit kit is shorter than the first: all {kits} were compared."


def layout_of(check: CheckBefore) -> Layout | None:
    """What a check needs set out, and where; None where nothing."""
    layout = KINDS[check.check].layout
    return (layout, check.where) if layout else None


def layouts_of(checks: Iterable[CheckBefore]) -> frozenset[Layout]:
    """Everything that has to be set out for checks."""
    return frozenset(layout for check in checks if (layout := layout_of(check)))


def _layout_minutes(layouts: Iterable[Layout]) -> int:
    by_words = {kind.layout: kind.layout_minutes for kind in KINDS.values() if kind.layout}
    return sum(by_words[words] for words, _ in layouts)


def own_minutes(entry: Fitness) -> int:
    """Minutes of an instrument's checks beside what is set out for them: one set-up before leaving, one on site."""
    total = 0
    for where in ("before-leaving", "on-site"):
        kinds = [KINDS[check.check] for check in entry.checks if check.where == where]
        set_ups = [kind.set_up_minutes for kind in kinds if kind.set_up_minutes]
        saved = sum(set_ups) - max(set_ups, default=0)
        total += sum(kind.minutes - kind.layout_minutes for kind in kinds) - saved
    return total


def minutes_of(entries: Iterable[Fitness]) -> int:
    """Minutes of everything a kit needs, each layout and each set-up counted once."""
    chosen = list(entries)
    layouts = layouts_of(check for entry in chosen for check in entry.checks)
    return sum(own_minutes(entry) for entry in chosen) + _layout_minutes(layouts)


def _exact(usable: Sequence[Fitness]) -> bool:
    return len(layouts_of(check for entry in usable for check in entry.checks)) <= MAX_LAYOUTS


def _best(roles: dict[str, int], usable: Sequence[Fitness]) -> list[Fitness] | None:
    """The cheapest kit; None where some part of it cannot be filled."""
    known = sorted(layouts_of(check for entry in usable for check in entry.checks))
    sets = chain.from_iterable(combinations(known, n) for n in range(len(known) + 1))
    ordered = {entry.tag: place for place, entry in enumerate(sorted(usable, key=lambda e: e.tag))}
    costs = {
        entry.tag: (own_minutes(entry), len(entry.conditions), int(not entry.own), ordered[entry.tag])
        for entry in usable
    }
    needed = {entry.tag: layouts_of(entry.checks) for entry in usable}
    best: tuple[Cost, list[Fitness]] | None = None
    for chosen in sets if len(known) <= MAX_LAYOUTS else (tuple(known),):
        allowed = frozenset(chosen)
        kit: list[Fitness] = []
        for role, number in roles.items():
            fitting = [e for e in usable if e.role == role and needed[e.tag] <= allowed]
            kit += sorted(fitting, key=lambda e: costs[e.tag])[:number]
        if len(kit) < sum(roles.values()):
            continue
        sums = [sum(part) for part in zip(*(costs[entry.tag] for entry in kit), strict=True)]
        cost = (sums[0] + _layout_minutes(allowed), sums[1], sums[2], sums[3])
        if best is None or cost < best[0]:
            best = cost, kit
    return best[1] if best else None


def _alternatives(roles: dict[str, int], usable: Sequence[Fitness], best: Sequence[Fitness]) -> list[Kit]:
    """The best kits without one of the instruments of the best."""
    found: list[tuple[int, list[Fitness]]] = []
    for left_out in best:
        other = _best(roles, [entry for entry in usable if entry.tag != left_out.tag])
        if other and all({e.tag for e in other} != {e.tag for e in known} for _, known in found):
            found.append((minutes_of(other), other))
    found.sort(key=lambda pair: (pair[0], [entry.tag for entry in pair[1]]))
    return [_kit(entries) for _, entries in found[:MAX_ALTERNATIVES]]


def _kit(entries: Sequence[Fitness]) -> Kit:
    checks = _in_order(entries)
    minutes = minutes_of(entries)
    layouts = list(dict.fromkeys(words for words, _ in sorted(layouts_of(c for e in entries for c in e.checks))))
    separate = sum(entry.minutes for entry in entries)
    number = count(len(checks), "check", "checks")
    text = f"{number[0].upper()}{number[1:]}, {count(minutes, 'minute', 'minutes')}" if checks else "Ready to go"
    places = list(ROLES)
    return Kit(
        tags=[entry.tag for entry in sorted(entries, key=lambda e: (places.index(e.role), e.tag))],
        minutes=minutes,
        separately=f"One by one, these checks take {count(separate, 'minute', 'minutes')}."
        if separate > minutes
        else "",
        checks=checks,
        layouts=layouts,
        text=text,
    )


def _in_order(entries: Sequence[Fitness]) -> list[KitCheck]:
    """Before leaving, then on site; instruments that use one layout after each other; each in the order its checks
    depend on each other."""
    rows = []
    kinds = list(KINDS)
    for entry in entries:
        for check in entry.checks:
            shared = sorted(words for words, where in layouts_of(entry.checks) if where == check.where)
            key = (check.where, shared[0] if shared else "", entry.tag, kinds.index(check.check))
            rows.append((key, entry.tag, check))
    rows.sort(key=lambda row: row[0])
    ordered, out = [], set[Layout]()
    up: dict[tuple[str, str], int] = {}
    for _, tag, check in rows:
        minutes, shares = _shared(tag, check, out, up)
        ordered.append(
            KitCheck(
                tag=tag,
                check=check.check,
                title=check.title,
                where=check.where,
                why=check.why,
                minutes=minutes,
                shares=shares,
            )
        )
    return ordered


def _shared(tag: str, check: CheckBefore, out: set[Layout], up: dict[tuple[str, str], int]) -> tuple[int, str]:
    """The minutes of a check after those before it, and what it shares with them. out: what is set out already; up: the
    minutes of set-up counted already, by instrument and place."""
    kind, minutes, shares = KINDS[check.check], check.minutes, []
    layout = layout_of(check)
    if layout in out:
        minutes -= kind.layout_minutes
        shares.append(kind.layout)
    elif layout:
        out.add(layout)
    if kind.set_up_minutes:
        counted = up.get((tag, check.where), 0)
        if counted:
            minutes -= min(counted, kind.set_up_minutes)
            shares.append("the set-up")
        up[(tag, check.where)] = max(counted, kind.set_up_minutes)
    return minutes, joined(shares)
