"""A head tilt measured by a phone or a small level: do the foot screws reach, or do the legs come first?

Source: a plane through screws on a circle; the screw that lies along the tilt moves radius · tan(tilt).
"""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from ...documents.envelope import InOwnUnit
from ...units.numbers import rounded
from ..context import AdviceQuery, TribrachGeometry
from ..results import AdviceResult
from .advised import Advised

SPARE = 0.25
"""Of its way to the stop each screw keeps so much for the fine level. Ours; experience, not measured."""


class HeadTiltQuery(AdviceQuery):
    """How much the head is tilted, as laid on it: degrees, whichever way."""

    advice: Literal["head-tilt"]
    tilt_deg: Annotated[float, Field(ge=0, le=45), InOwnUnit]
    tribrach: TribrachGeometry = TribrachGeometry()


class HeadTiltAdvice(AdviceResult):
    """Whether the foot screws reach, what is then left at the worst, and the tilt up to which they do."""

    enough: bool
    travel_left_mm: float
    most_deg: float


def advise_head_tilt(query: HeadTiltQuery) -> Advised:
    """The screws from mid travel, in the worst direction: along one of them."""
    tribrach = query.tribrach.as_tribrach()
    way = tribrach.travel_mm / 2.0
    most = math.degrees(math.atan(way * (1.0 - SPARE) / tribrach.radius_mm))
    left = way - tribrach.radius_mm * math.tan(math.radians(query.tilt_deg))
    result = HeadTiltAdvice(enough=query.tilt_deg <= most, travel_left_mm=rounded(left, 2), most_deg=rounded(most, 1))
    if result.enough:
        text = f"The foot screws reach: at the worst {left:.1f} mm of their way stays."
    else:
        text = f"Level the head with the legs first, to {most:.1f}° or less: the foot screws do not reach from here."
    return Advised(result, [text])
