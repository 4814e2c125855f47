"""The attack's rates, in small: `make rates` prints them in full. A finite sample strays: three of its standard errors."""

from __future__ import annotations

from math import sqrt

import pytest

from .coarse import COARSE_RATES
from .faces import FACE_RATES
from .rates import RATES, Rate, share
from .series import SERIES_RATES

ALL = (*RATES, *COARSE_RATES, *FACE_RATES, *SERIES_RATES)


@pytest.mark.parametrize("rate", ALL, ids=[rate.name for rate in ALL])
def test_honest_work_is_judged_as_it_should(rate: Rate) -> None:
    runs = min(rate.runs, 1000 if "budget" in rate.name else rate.few)
    found = share(rate, runs)
    low, high = (
        entry if entry in (0.0, 1.0) else entry + sign * 3 * sqrt(entry * (1 - entry) / runs)
        for entry, sign in ((rate.low, -1), (rate.high, 1))
    )
    assert low <= found <= high, f"{rate.name}: {found:.3f}"
