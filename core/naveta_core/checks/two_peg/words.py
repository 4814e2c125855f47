"""What a two-peg test says in people's words and units: finding, shown figures, effect, how it was reckoned."""

from __future__ import annotations

from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ...judgement import Limits, may_turn_screws, scale_squared
from ...lengths import METRES, in_unit
from ...priors import PRIOR_DOF
from ...readings import ordinal
from ...wording import MINUS, ROUND_SIGHTS, LengthWords, arcsec, figure, length_words, limit
from ..sheet.acts import NOT_PROVED
from .judge import Judged, longest_last, target_m
from .model import TwoPeg
from .read import Seen

Data = dict[str, Any]
IMBALANCES_M = (10.0, 20.0, 50.0)
IMBALANCES_FT = (30.0, 60.0, 150.0)
_SENSITIVITY_MM = 1.0
FAR_OFF_M = 0.05
"""A reticle never moves a reading by more in one turn: such a reading is of another staff, stand or line."""
WHEN_BAD = (
    (
        "real",
        "Is it real?",
        "Run it again from the other end before anything is turned. Both runs count together, never the better one alone.",
    ),
    (
        "keep",
        "Keep what was found",
        "Save as found before the instrument is touched: it is the only proof of what the work since the last good check was done with.",
    ),
    (
        "adjust",
        "Adjust it",
        "Level and tripod untouched, turn the reticle until the far staff reads its target. Then run the test again, as left.",
    ),
    (
        "without",
        "Or do without it",
        "Take another that may be used today, use this one under its condition, or hold it until somebody has seen to it.",
    ),
    (
        "look-back",
        "What was done with it since",
        "Work since the last good check may carry this error. Look at it while it can still be measured again.",
    ),
)


def direction(c: float) -> str:
    return "up" if c > 0 else "down"


def signed(value: float, decimals: int) -> str:
    text = figure(value, decimals)
    return text if text.startswith(MINUS) or float(text) == 0 else "+" + text


def _told_sight_m(document: TwoPeg) -> float:
    """The sight an error is told for: the work's own, else 30 m or 100 ft."""
    if "sight_m" in document.work.model_fields_set:
        return document.work.sight_m
    return ROUND_SIGHTS.get(document.units.length, document.work.sight_m)


def finding(document: TwoPeg, judged: Judged) -> str:
    """The finding as one sentence."""
    e, words, sight = judged.solution.estimate, length_words(document.units.length), _told_sight_m(document)
    plus_minus = f"± {arcsec(e.u95, e.u95)}"
    if abs(e.value) <= e.u95:
        limit = arcsec(e.proved_to, e.proved_to)
        return f"No error shown: line of sight {arcsec(abs(e.value), e.u95)} {direction(e.value)}, {plus_minus}; proved within {limit}."
    high = "too high" if e.value > 0 else "too low"
    effect = words.small(abs(judged.solution.c) * sight)
    return f"Line of sight points {arcsec(abs(e.value), e.u95)} {direction(e.value)}, {plus_minus}: {effect} {high} at {words.distance(sight)}."


def limit_text(limits: Limits) -> str:
    """Which limit applied and why: 'Limit 10″, 20″ balanced (opening value for levels of 2 mm per km)'."""
    balanced = f", {limit(limits.watch)} with balanced sights" if limits.watch > limits.use else ""
    return f"Limit {limit(limits.use)}{balanced}: {limits.source}"


def shown(document: TwoPeg, judged: Judged) -> list[Data]:
    """The result as people read it, in the document's units."""
    e, unit = judged.solution.estimate, document.units.length
    words, u_small = length_words(unit), e.u95 / ARCSEC_PER_RADIAN
    feet = unit in ("ft", "usft", "in")
    per = "ft per 100 ft" if feet else "mm per m"
    scale = 100.0 if feet else 1000.0
    decimals = 4 if feet else 3
    misclosure = misclosure_m(judged)
    return [
        _shown(
            "collimation_arcsec",
            "Line of sight",
            signed(e.value, 0 if e.u95 >= 10 else 1) + "″",
            arcsec(e.u95, e.u95),
            e.value,
            "arcsec",
            1.0,
        ),
        _shown(
            "collimation_mm_per_m",
            "The same",
            signed(judged.solution.c * scale, decimals) + f" {per}",
            figure(u_small * scale, decimals),
            judged.solution.c * scale,
            per,
            scale / 1000,
        ),
        _shown(
            "height_difference_m",
            "B above A",
            f"{words.reading(judged.solution.height_difference_m)} {words.name}",
            None,
            in_unit(judged.solution.height_difference_m, unit),
            unit,
            1 / METRES[unit],
        ),
        _shown(
            "misclosure_m",
            "Set-ups differ, as read",
            words.small(misclosure),
            None,
            in_unit(misclosure, words.small_unit),
            words.small_unit,
            1 / METRES[words.small_unit],
        ),
    ]


def _shown(quantity: str, label: str, text: str, plus_minus: str | None, value: float, unit: str, per: float) -> Data:
    return {
        "quantity": quantity,
        "label": label,
        "text": text,
        "plus_minus": plus_minus,
        "value": value,
        "unit": unit,
        "per_canonical": per,
    }


def misclosure_m(judged: Judged) -> float:
    """(a - b) of the last set-up minus that of the first, as read."""
    differences = [a.mean_m - b.mean_m for a, b in (judged.solution.setups[0], judged.solution.setups[-1])]
    return differences[1] - differences[0]


def work(document: TwoPeg, judged: Judged) -> list[Data]:
    """What the error costs a run of levels, for sights that differ by so much."""
    unit, c = document.units.length, judged.solution.c
    words = length_words(unit)
    feet = unit in ("ft", "usft", "in")
    steps = [one * METRES["ft"] for one in IMBALANCES_FT] if feet else list(IMBALANCES_M)
    own = document.work.sight_imbalance_m
    if "sight_imbalance_m" in document.work.model_fields_set and own > 0 and all(abs(own - one) > 0.5 for one in steps):
        steps.insert(0, own)
    lines = [
        {
            "code": f"imbalance-{round(one)}-m",
            "text": f"When back and fore sight differ by {words.distance(one)}, it costs {words.small(abs(c) * one)} of height.",
            "imbalance_m": one,
            "height_m": c * one,
        }
        for one in steps
    ]
    return [
        *lines,
        {
            "code": "balanced",
            "text": "With back and fore sight alike it costs nothing.",
            "imbalance_m": 0.0,
            "height_m": 0.0,
        },
    ]


def worked(document: TwoPeg, judged: Judged) -> list[Data]:
    """How it was reckoned, with this check's figures."""
    solution, words, e = judged.solution, length_words(document.units.length), judged.solution.estimate
    unit, curvature = words.name, document.observations.curvature
    equation = "a − b = Δh + c·(Da − Db)" + (" + (1 − k)(Da² − Db²)/2R" if curvature else "")
    lines = [_line("Each set-up gives one equation", equation)]
    for (a, b), reduced, imbalance in zip(solution.setups, solution.reduced_m, solution.imbalances_m, strict=True):
        text = f"{ordinal(a.setup).capitalize()} set-up: a − b" + (
            ", less curvature and refraction" if curvature else ""
        )
        value = f"{words.reading(a.mean_m)} − {words.reading(b.mean_m)}"
        bent = a.mean_m - b.mean_m - reduced
        if curvature and abs(bent) > 5e-6:
            value += f" − {words.reading(bent, 1)}" if bent > 0 else f" + {words.reading(-bent, 1)}"
        lines.append(
            _line(text, f"{value} = {words.reading(reduced, 1)} {unit}; Da − Db = {words.distance(imbalance)}")
        )
    lines += _solved(judged, words)
    lines.append(_line("In seconds of arc (× 206 265)", f"c = {signed(e.value, 2)}″"))
    lines.append(_line("Spread before anything was read", _prior_words(judged)))
    lines.append(_line("Spread found here", _found_words(judged)))
    lines.append(_line("Standard uncertainty, degrees of freedom", f"{figure(e.sigma, 2)}″, {figure(e.dof, 1)}"))
    lines.append(_line("95 % interval", f"± {figure(e.u95, 2)}″; proved, on one side, to {figure(e.proved_to, 1)}″"))
    return lines


def _solved(judged: Judged, words: LengthWords) -> list[Data]:
    solution = judged.solution
    if len(solution.setups) == 2:
        (y1, y2), (i1, i2) = solution.reduced_m, solution.imbalances_m
        top = f"({words.reading(y2, 1)} − {words.reading(y1, 1)})".replace(f"− {MINUS}", "+ ")
        bottom = f"({words.distance(i2)} − {words.distance(i1)})".replace(f"− {MINUS}", "+ ")
        return [
            _line(
                "Second less first, over the change of Da − Db",
                f"c = {top} / {bottom} = {signed(solution.c * 1000, 4)} mm per m",
            )
        ]
    worst = max(abs(v) for v in solution.fit.residuals)
    text = f"Least squares through {len(solution.setups)} set-ups, all weighted alike"
    return [_line(text, f"c = {signed(solution.c * 1000, 4)} mm per m; largest misfit {words.small(worst)}")]


def _prior_words(judged: Judged) -> str:
    within, between = judged.solution.q_within**0.5, judged.solution.q_between**0.5
    learned = " (learned from earlier tests)" if judged.priors.dof != PRIOR_DOF or judged.priors.factor != 1 else ""
    return f"reading {figure(within, 2)}″{learned}, pointing and refraction {figure(between, 2)}″"


def _found_words(judged: Judged) -> str:
    found = judged.solution.spread
    if found.dof == 0:
        return "no repeats and no third set-up: the expected spread stands"
    return f"{figure(scale_squared(found, judged.priors.dof) ** 0.5, 2)} times the expected, from {found.dof:g} repeats"


def _line(text: str, value: str) -> Data:
    return {"text": text, "value": value}


def sensitivity(document: TwoPeg, judged: Judged) -> list[Data]:
    """How much one reading moves the finding: arcsec of c per millimetre (or 0.01 ft), reading by reading."""
    words = length_words(document.units.length)
    step_m = 0.01 * METRES[words.unit] if words.unit in ("ft", "usft") else _SENSITIVITY_MM / 1000
    step = f"0.01 {words.name}" if words.unit in ("ft", "usft") else words.small(step_m)
    rows = []
    for g, (a, b) in zip(judged.solution.fit.gain[1], judged.solution.setups, strict=True):
        for seen, sign in ((a, 1.0), (b, -1.0)):
            per_metre = sign * g / len(seen.pointings) * ARCSEC_PER_RADIAN
            for pointing in seen.pointings:
                rows.append(_sensitive(pointing.path, seen, pointing.text, per_metre, per_metre * step_m, step))
    return rows


def _sensitive(path: str, seen: Seen, text: str, per_metre: float, moved: float, step: str) -> Data:
    return {
        "path": path,
        "where": seen.where,
        "given": text,
        "arcsec_per_mm": per_metre / 1000,
        "text": f"{step} more moves it {arcsec(abs(moved))} {direction(moved)}",
    }


def adjusting(document: TwoPeg, judged: Judged, steps: list[tuple[str, float]]) -> Data:
    """Where the reticle has to go, and what each reading taken since leaves to be done.

    steps: (as typed, metres) of the staff at the longest sight of the last set-up, level untouched.
    """
    words, seen = length_words(document.units.length), longest_last(judged.solution.setups)
    target, limits = target_m(judged, seen), judged.limits
    now_c = judged.target_c
    rows = []
    for text, metres in steps:
        left = (metres - target) / seen.sight_m * ARCSEC_PER_RADIAN
        away = metres - target
        done = abs(left) <= limits.use / 4
        if abs(away - now_c * seen.sight_m) > FAR_OFF_M:
            says = f"{words.small(abs(away))} from the target: no reticle moves a line so far. Is it staff {seen.staff}, the same stand, the middle wire?"
        elif done:
            says = f"{words.small(abs(away))} off the target, {arcsec(abs(left))}: there. Look at the near staff, then run the test again."
        else:
            turn = "lower" if away > 0 else "raise"
            says = f"{words.small(abs(away))} too {'high' if away > 0 else 'low'}, {arcsec(abs(left))} left: {turn} the line a little more."
        rows.append({"given": text, "left": in_unit(away, document.units.length), "done": done, "text": says})
    allowed = may_turn_screws(judged.solution.estimate, limits)
    bring = f"Level untouched. Bring staff {seen.staff} from {words.reading(target + now_c * seen.sight_m)} to {words.reading(target)}."
    return {
        "asked": f"Staff {seen.staff} reads now",
        "wells": [""],
        "from_text": words.reading(target + now_c * seen.sight_m),
        "target_text": words.reading(target),
        "unit": words.name,
        "allowed": allowed,
        "tool": "The instrument's own adjusting pin or key.",
        "screw": "The reticle screw under the cover below or above the eyepiece; loosen one side as the other is tightened.",
        "text": bring if allowed else NOT_PROVED,
        "steps": rows,
    }
