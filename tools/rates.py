"""Print the rates of tests/core/attack: honest work judged wrongly, truths inside their intervals. `make rates`."""

from __future__ import annotations

import time

from tests.core.attack.rates import RATES, share


def main() -> None:
    for one in RATES:
        begun = time.monotonic()
        found = share(one)
        well = "" if one.low <= found <= one.high else "   OUTSIDE"
        print(
            f"{one.name:62} {100 * found:6.1f} %   {100 * one.low:g} to {100 * one.high:g}{well}   {time.monotonic() - begun:.1f} s",
            flush=True,
        )


if __name__ == "__main__":
    main()
