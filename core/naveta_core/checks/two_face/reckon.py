"""The verdict on a two-face measurement: what moved, what stands apart, c, i and t against their limits."""

from __future__ import annotations

from dataclasses import replace
from math import sqrt
from typing import Any

from ...blunders import find_apart, find_moved, left_between, likely_slip, too_scattered
from ...judgement import SCATTER_REFUSED, Estimate, Grade, Limits, decide, scatter_factor
from ...readings import ordinal
from ...wording import arcsec, count, figure
from ..sheet.answer import SoFar
from ..sheet.circumstances import Circumstances, Needs
from ..sheet.directions import mean, mean_direction, wrapped
from ..sheet.judged import Judged, Quantity, Said, limits_from, noise_factor, repeats_of
from ..sheet.pictures import circle
from ..sheet.stored import tell_before, tell_proved
from .mends import sorted_by_face
from .model import KEPT, TwoFace
from .read import Pointed, Read, accuracy, sine, where
from .solve import Solution, groups_of, solve
from .words import finding_of, shown_of, work_of, worked_of

Data = dict[str, Any]
COLLIMATION, INDEX, AXIS = "collimation_arcsec", "index_arcsec", "tilting_axis_arcsec"
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "hold"),
    "reading": ("sun", "hold"),
    "adjusting": ("hold", "focus-stop"),
}
LEVEL_WITHIN_DEG = 10.0
FAR_FROM_LAST_ARCSEC = 60.0
FAR_SPREAD_ARCSEC = 600.0
"""Beyond it a pointing was typed wrongly, and that is said beside it."""
CIRCLES = (
    "face left, horizontal circle",
    "face left, vertical circle",
    "face right, horizontal circle",
    "face right, vertical circle",
)
STORE = "Measure as the instrument's own routine asks, store; then a second round, as left."


def needs(_document: TwoFace) -> Needs:
    return Needs(minutes_on=3.0, firm_stand=True, temperature=True)


def judge(document: TwoFace, seen: Read, _told: Circumstances) -> Judged:
    """Set aside what stands apart, solve, and hold c, i and t against their limits."""
    refused, reasons, aside, apart = _faults(document, seen)
    solution = solve(document, _without(seen, aside))
    quantities = _quantities(document, solution)
    figures = _figures(solution)
    judged = Judged(
        quantities,
        figures,
        finding_of(solution),
        shown_of(quantities, solution),
        worked_of(solution),
        work_of(document, solution),
        solution.repeats,
        one_more=("round of pointings", "rounds of pointings"),
        again="Take the full test before anything is stored: five pointings a face. Both count together.",
    )
    judged.set_aside = aside
    judged.refused += [*refused, *_too_steep(solution), *_far_from_last(document, solution)]
    if solution.axis is None and len(solution.faces) > 1:
        text = "For the tilting axis: a second mark 15° or more higher or lower; 20 m away it must stand 5.4 m above the telescope. Plan the marks first."
        judged.then.append(("steeper-mark", text))
    tell_before(judged, document, seen.before, KEPT)
    tell_proved(judged, document, KEPT)
    judged.reasons += [*reasons, *_signs(seen, solution, quantities)]
    if apart is not None:
        judged.apart = apart
    before = solve(document, seen)
    if aside and not refused and _grades(document, before) != _grades(document, solution):
        judged.refused.append(
            ("apart-decides", "With and without what is set aside the verdict differs: take that face again.")
        )
    return judged


def _grades(document: TwoFace, solution: Solution) -> list[Grade]:
    return [decide(one.estimate, one.limits).grade for one in _quantities(document, solution)]


def _limits(document: TwoFace, name: str) -> Limits:
    s = accuracy(document)
    optical = document.instrument.kind == "theodolite" and document.instrument.reading == "optical"
    both = document.work.both_faces
    if name == AXIS:
        use, most, share = max(10.0, 3 * s), 60.0, 2.0
        watch = share * use if both else use
    else:
        use, most = max(10.0 if optical else 5.0, 2 * s), 180.0
        watch = max(use, 4 * s) if both else use
    work = "for work in both faces" if both else "for work in one face"
    why = f"opening value for angles of {s:g}″, {work}; the stated accuracy is a scatter of readings, not a limit"
    limits = limits_from(document, name, Limits(use, watch, most, why))
    return _raw(limits, name) if document.instrument.judged_raw and name != AXIS else limits


def _raw(limits: Limits, name: str) -> Limits:
    """A firm that judges 2c and 2i: half of the figure is judged, so half of its limit."""
    twice = "2c" if name == COLLIMATION else "2i"
    why = f"the firm judges the raw {twice}, limit {limits.use:g}″: half of it for the error. {limits.source[0].upper()}{limits.source[1:]}"
    return Limits(limits.use / 2, limits.watch / 2, limits.adjust, why)


def _quantities(document: TwoFace, solution: Solution) -> list[Quantity]:
    told: list[tuple[str, str, str, Estimate | None]] = [
        (COLLIMATION, "sighting error c", "c", solution.collimation),
        (INDEX, "vertical index i", "i", solution.index),
        (AXIS, "tilting axis t", "t", solution.axis),
    ]
    return [
        Quantity(
            name, f"the {noun}", "arcsec", estimate, _limits(document, name), *solution.q[key],
            condition="In both faces only: the mean of both is free of it.", turn=STORE, beyond="what can be stored",
        )
        for name, noun, key, estimate in told
        if estimate is not None
    ]  # fmt: skip


def _figures(solution: Solution) -> Data:
    return {
        COLLIMATION: solution.collimation.value,
        INDEX: solution.index.value,
        AXIS: solution.axis.value if solution.axis else None,
        f"sigma_{COLLIMATION}": solution.collimation.sigma,
        f"sigma_{INDEX}": solution.index.sigma,
        f"sigma_{AXIS}": solution.axis.sigma if solution.axis else None,
        "targets": [
            {
                "name": one.seen.name,
                "zenith_deg": one.zenith_deg,
                "double_collimation_arcsec": one.double_c,
                "index_sum_arcsec": one.index_sum,
            }
            for one in solution.faces
        ],
        "repeats": repeats_of(solution.repeats),
    }


def _without(seen: Read, aside: list[str]) -> Read:
    kept = [
        replace(
            one, left=[p for p in one.left if p.path not in aside], right=[p for p in one.right if p.path not in aside]
        )
        for one in seen.seen
    ]
    return Read(kept, seen.closing, seen.before)


def _faults(document: TwoFace, seen: Read) -> tuple[list[Said], list[Said], list[str], Said | None]:
    """What is refused, what is told, the pointings set aside, and the one to be marked."""
    reasons: list[Said] = []
    aside: list[str] = []
    marked: Said | None = None
    faces_hit: set[int] = set()
    for _ in range(3):
        current = _without(seen, aside)
        solution = solve(document, current)
        groups = groups_of(solution.faces)
        moved, apart = find_moved(groups), find_apart(groups)
        if moved is not None and (apart is None or moved.deviation >= apart.deviation):
            text = f"Something moved in {_called(current, moved.group)} between the {ordinal(moved.index - 1)} and the {ordinal(moved.index)} pointing: take that face again."
            return [("moved", text)], reasons, aside, marked
        if apart is None:
            break
        if apart.sole_pair:
            return (
                [
                    (
                        "readings-differ",
                        f"The two pointings of {_called(current, apart.group)} differ by more than pointing explains: take a third.",
                    )
                ],
                reasons,
                aside,
                marked,
            )
        if len(aside) == 2 or apart.group // 2 in faces_hit:
            return (
                [
                    (
                        "too-many-apart",
                        f"More than one pointing stands apart: take {_called(current, apart.group)} again.",
                    )
                ],
                reasons,
                aside,
                marked,
            )
        faces_hit.add(apart.group // 2)
        path, text = _apart_text(document, current, solution, apart.group, apart.index)
        aside.append(path)
        reasons.append(("set-aside", text))
        marked = (path, "Stands apart: take one more pointing here.")
    refused = _scattered(seen, solution, groups) + _closing(current, solution, groups)
    return refused, reasons, aside, marked


def _listed(seen: Read, group: int) -> tuple[list[Pointed], str]:
    one = seen.seen[group // 4]
    return one.left if group % 4 < 2 else one.right, "hz" if group % 2 == 0 else "v"


def _called(seen: Read, group: int) -> str:
    return f"{seen.seen[group // 4].name}, {CIRCLES[group % 4]}"


def _apart_text(document: TwoFace, seen: Read, solution: Solution, group: int, index: int) -> Said:
    listed, circle_name = _listed(seen, group)
    point = listed[index]
    rest = [
        wrapped(getattr(p, circle_name) - getattr(point, circle_name)) * 3600
        for i, p in enumerate(listed)
        if i != index
    ]
    away = mean(rest)
    typed = point.texts[0 if circle_name == "hz" else 1]
    text = f"{typed} ({where(point.path)}, {circle_name}) lies {arcsec(abs(away))} from its fellows and is set aside."
    if document.units.angle != "dms":
        return point.path, text
    expected = getattr(point, circle_name) + away / 3600
    slip = _slip(typed, expected, 3 * sqrt(solution.faces[group // 4].within))
    return point.path, f"{text} Typed {typed} for {slip}?" if slip else text


def _slip(typed: str, expected_deg: float, tolerance_arcsec: float) -> str | None:
    """A packed angle with two digits swapped or one changed that comes near what was expected."""
    total = expected_deg * 3600
    degrees, rest = divmod(total, 3600)
    minutes, seconds = divmod(rest, 60)
    packed = degrees + minutes / 100 + seconds / 10000
    return likely_slip(typed, packed, tolerance_arcsec / 10000)


def _scattered(seen: Read, solution: Solution, groups: list[list[float]]) -> list[Said]:
    at = too_scattered(groups)
    if at is not None:
        return [
            ("face-scatters", f"{_called(seen, at)}: its pointings scatter far more than the others. Take it again.")
        ]
    factor = scatter_factor(solution.repeats)
    if factor is not None and factor > SCATTER_REFUSED:
        return [
            (
                "scatter",
                f"The pointings scatter {factor:.1f} times as much as such pointings do: shimmer, a soft stand, parallax?",
            )
        ]
    return []


def _closing(seen: Read, solution: Solution, groups: list[list[float]]) -> list[Said]:
    """The closing look of each round against its first mark, face left."""
    for n in sorted({p.round for p in seen.closing}):
        at = next((i for i, one in enumerate(seen.seen) if one.round == n), None)
        if at is None:
            continue
        first, spread, found = seen.seen[at].left, sqrt(solution.faces[at].within), []
        for name, group in (("hz", groups[4 * at]), ("v", groups[4 * at + 1])):
            looked = [one for one in seen.closing if one.round == n]
            closing = [wrapped(getattr(p, name) - getattr(first[0], name)) * 3600 / spread for p in looked]
            away = left_between(group, closing, groups)
            if away is not None:
                circle_said = "horizontal" if name == "hz" else "vertical"
                found.append(f"{arcsec(abs(away) * spread)} in the {circle_said} circle")
        if found:
            text = f"The closing look at {seen.seen[at].name} differs by {' and '.join(found)}: something moved between the faces, and it would hide in c and i. Take it again."
            return [("moved-between", text)]
    return []


def _far_from_last(document: TwoFace, solution: Solution) -> list[Said]:
    """One pointing a face cannot be held against its fellows: what lies far from the last finding is asked about."""
    if any(len(one.seen.left) > 1 or len(one.seen.right) > 1 for one in solution.faces):
        return []
    last = next((one.result for one in document.before if one.check == "two-face"), {})
    said: list[Said] = []
    for name, letter, e in ((COLLIMATION, "c", solution.collimation), (INDEX, "i", solution.index)):
        was = last.get(name)
        if isinstance(was, int | float) and abs(e.value - was) > FAR_FROM_LAST_ARCSEC:
            text = f"{letter} is {arcsec(abs(e.value - was), 10)} away from the last finding, by one pointing a face: a minute or ten seconds mistyped? Point once more in both faces."
            said.append(("far-from-last", text))
    return said


def _too_steep(solution: Solution) -> list[Said]:
    """A sole mark far from level: the tilting axis hides in c, and no number of pointings parts them."""
    sole = solution.faces[0]
    away = abs(sole.zenith_deg - 90.0)
    if len({one.seen.path for one in solution.faces}) > 1 or away <= LEVEL_WITHIN_DEG:
        return []
    text = f"The only mark is {figure(away, 0)}° from level: the axis hides in c. Take a level one."
    return [("no-level-target", text)]


def _signs(seen: Read, solution: Solution, quantities: list[Quantity]) -> list[Said]:
    """What the geometry and the numbers of pointings say."""
    said: list[Said] = []
    if solution.axis is None:
        said.append(
            (
                "not-determined",
                "The tilting axis was not determined: it wants a second mark 15° or more higher or lower. It is counted in c with 5″.",
            )
        )
    if any(len(one.seen.left) != len(one.seen.right) for one in solution.faces):
        said.append(
            (
                "unequal-faces",
                "Not as many pointings in one face as in the other: the fewer ones decide how sure it is.",
            )
        )
    if {one.round for one in seen.seen} - {one.round for one in seen.closing}:
        said.append(
            (
                "no-closing-look",
                "Without a closing look at the first mark a move between the faces would hide in c and i.",
            )
        )
    if any(one.estimate.u95 > one.limits.use for one in quantities):
        surest = max(one.estimate.u95 for one in quantities)
        said.append(("quick", f"Quick: it shows ± {arcsec(surest, surest)} at best. Nothing is stored from it."))
    return said


def drawn(_document: TwoFace, seen: Read, judged: Judged | None) -> Data | None:
    """Every pointing against the mean of both faces, seconds, as face left reads: left to one side, right opposite."""
    points = []
    for number, one in enumerate(seen.seen, start=1):
        if not one.left or not one.right:
            continue
        middle = mean_direction(
            [mean_direction([p.hz for p in one.left]), (mean_direction([p.hz for p in one.right]) + 180.0) % 360.0]
        )
        zenith = one.zenith_deg
        for face, listed in (("left", one.left), ("right", one.right)):
            for i, p in enumerate(listed):
                hz = p.hz if face == "left" else p.hz + 180.0
                v = p.v if face == "left" else 360.0 - p.v
                label = f"face {face}" if number == 1 and i == 0 else ""
                points.append((wrapped(hz - middle) * 3600 * sine(zenith), (v - zenith) * 3600, label, p.path))
    centre = (judged.figures[COLLIMATION], judged.figures[INDEX]) if judged else None
    limit = judged.quantities[0].limits.use if judged else None
    return circle(
        "arcsec", points, centre, None, "c to the right, i upwards", "", x="horizontal", y="vertical", limit=limit,
        seen="Each pointing less the mean of both faces.",
    )  # fmt: skip


def so_far(document: TwoFace, seen: Read) -> SoFar:
    said: list[Said] = []
    sole = [one for one in seen.seen if one.left and one.right]
    if sole and len(sole) < len(seen.seen):
        hz = (
            wrapped(
                mean_direction([p.hz for p in sole[0].left]) - mean_direction([p.hz for p in sole[0].right]) - 180.0
            )
            * 3600
        )
        v = (mean([p.v for p in sole[0].left]) + mean([p.v for p in sole[0].right]) - 360.0) * 3600
        said.append(
            (
                "running",
                f"{sole[0].name} so far: 2c {arcsec(hz * sine(sole[0].zenith_deg))}, 2i {arcsec(v)}; half of each is the instrument's.",
            )
        )
    return SoFar([*said, *_spread_so_far(seen)], _apart_so_far(document, seen), _mends(document, seen))


def _apart_so_far(document: TwoFace, seen: Read) -> Said | None:
    """A pointing that stands apart in its face already, before the other face is in."""
    listed = [(one, p) for one in seen.seen for p in (one.left, one.right) if len(p) > 2]
    groups, at = [], []
    for one, pointings in listed:
        spread = one.within_arcsec(document) * noise_factor(document)
        groups.append([wrapped(p.hz - pointings[0].hz) * 3600 / spread for p in pointings])
        groups.append([(p.v - pointings[0].v) * 3600 / spread for p in pointings])
        at += [pointings, pointings]
    apart = find_apart(groups)
    if apart is None:
        return None
    circle_said = "horizontal" if apart.group % 2 == 0 else "vertical"
    text = f"Stands apart in the {circle_said} circle: was it typed as read? Else point once more here."
    return at[apart.group][apart.index].path, text


def _mends(document: TwoFace, seen: Read) -> list[Data]:
    """Pointings that stand in the wrong face, mark by mark."""
    found: list[Data] = []
    for i, target in enumerate(document.observations.targets):
        path = f"observations.targets[{i}]"
        own = [one for one in seen.seen if one.path == path]
        read = {"left": [p for one in own for p in one.left], "right": [p for one in own for p in one.right]}
        lists = {"left": target.left, "right": target.right}
        found += sorted_by_face(path, target.name.strip() or where(path), lists, read)
    return found


def _spread_so_far(seen: Read) -> list[Said]:
    """How the pointings of the face at hand scatter, from the second on."""
    latest = next((p for one in reversed(seen.seen) for p in (one.right, one.left) if len(p) > 1), None)
    if latest is None:
        return []
    hz = [wrapped(p.hz - latest[0].hz) * 3600 for p in latest]
    v = [(p.v - latest[0].v) * 3600 for p in latest]
    if max(max(hz) - min(hz), max(v) - min(v)) > FAR_SPREAD_ARCSEC:
        return []
    text = f"{count(len(latest), 'pointing', 'pointings').capitalize()} of this face: from lowest to highest {arcsec(max(hz) - min(hz))} in the horizontal circle, {arcsec(max(v) - min(v))} in the vertical."
    return [("spread-so-far", text)]
