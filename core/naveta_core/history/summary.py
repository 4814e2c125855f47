"""What is wanted of a record later, drawn from its result once, when it is written.

Lists, series, standings, a device's own calculation and the next check read this summary, and nothing else of a record.
"""

from __future__ import annotations

from typing import Any

from ..checks import KINDS
from ..results import Answer, Repeats, VerdictPart
from ..stats.decision import Grade
from ..units.numbers import numeral

Data = dict[str, Any]


class SeriesPoint(Answer):
    """The figure a series shows: a check's main quantity, or how far control points disagreed.

    In the unit given beside it.
    """

    grade: Grade
    value: float
    u95: float
    use: float
    watch: float


class RecordSummary(Answer):
    """A check, set-up or orientation in short; of checks alone: `codes`, `within_watch`, `text`, `repeats`.

    Figures in the unit of their names, which end in it: any unit.
    """

    kind: str
    grade: Grade
    finding: str
    part: VerdictPart | None
    point: SeriesPoint | None = None
    codes: list[str] = []
    within_watch: bool = False
    """Whether everything judged is proved to lie within its limit for work conditionally."""
    text: str = ""
    """The main quantity as people read it."""
    figures: dict[str, float | str | bool | None] = {}
    """What later documents depend on: a check's main quantity, where a vial rests, how control points agreed."""
    repeats: Repeats | None = None
    temperature_c: float | None = None


CONTROL = ("disagreement_mm", "sigma_disagreement_mm")


def summary_of(document: Data, result: Data) -> RecordSummary:
    """The summary of a finished document and its result, both as plain data."""
    verdict = result["verdict"]
    common = {
        "kind": result["kind"],
        "grade": verdict["grade"],
        "finding": result["finding"]["text"],
        "part": next(iter(verdict["parts"]), None),
    }
    temperature = _celsius(document)
    if temperature is not None:
        common["temperature_c"] = temperature
    if result["kind"] in KINDS:
        return RecordSummary.model_validate({**common, **_of_check(result)})
    figures, parts = result["result"], verdict["parts"]
    if figures.get("rest_div") is not None:
        common["figures"] = {"rest_div": figures["rest_div"]}
    if figures.get("disagreement_mm") is not None:
        common["figures"] = {name: figures[name] for name in CONTROL}
        if parts:
            common["point"] = _point(parts[0], figures["disagreement_mm"], figures["u95_disagreement_mm"])
    return RecordSummary.model_validate(common)


def _of_check(result: Data) -> Data:
    kind, verdict, figures = KINDS[result["kind"]], result["verdict"], result["result"]
    main = kind.main_quantity
    part = next(part for part in verdict["parts"] if part["quantity"] == main)
    carried = (main, f"sigma_{main}", *kind.carried)
    # The next run is compared with every quantity that was judged, not with the main one alone.
    judged: Data = {}
    for each in verdict["parts"]:
        judged |= {each["quantity"]: each["value"], f"sigma_{each['quantity']}": each["sigma"]}
    return {
        "point": _point(part, part["value"], part["u95"]),
        "codes": [reason["code"] for reason in verdict["reasons"]],
        "within_watch": all(part["proved_to"] <= part["limits"]["watch"] for part in verdict["parts"]),
        "text": next(row["text"] for row in result["shown"] if row["quantity"] == main),
        "figures": judged | {name: figures[name] for name in carried},
        "repeats": figures["repeats"],
    }


def _celsius(document: Data) -> float | None:
    """The temperature of a record as a number, however it was typed; None where nobody gave it."""
    typed = document.get("conditions", {}).get("temperature_c")
    return numeral(typed).value if isinstance(typed, str) else typed


def _point(part: Data, value: float, u95: float) -> Data:
    limits = part["limits"]
    return {"grade": part["grade"], "value": value, "u95": u95, "use": limits["use"], "watch": limits["watch"]}
