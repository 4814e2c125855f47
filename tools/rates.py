"""Print the rates of tests/core/attack: honest work judged wrongly, truths inside their intervals, what series say.
`make rates`."""

from __future__ import annotations

import time

from tests.core.attack.coarse import COARSE_RATES
from tests.core.attack.faces import FACE_RATES
from tests.core.attack.rates import RATES, share
from tests.core.attack.series import SERIES_RATES


def main() -> None:
    for rate in (*RATES, *COARSE_RATES, *FACE_RATES, *SERIES_RATES):
        begun = time.monotonic()
        found = share(rate)
        well = "" if rate.low <= found <= rate.high else "   OUTSIDE"
        print(
            f"{rate.name:62} {100 * found:6.1f} %   {100 * rate.low:g} to {100 * rate.high:g}{well}   {time.monotonic() - begun:.1f} s",
            flush=True,
        )


if __name__ == "__main__":
    main()
