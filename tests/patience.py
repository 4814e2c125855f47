"""How slow this machine is now. Waits in tests are ten seconds of a usual computer, so that a machine whose host gives its
processors to others does not fail what is sound, and a slow page still does.
"""

from __future__ import annotations

import time

ROUNDS = 500_000
USUAL_S = 0.03
"""What so many rounds take on a usual computer that does nothing else."""
MAX_SLOWER = 6.0


def slower() -> float:
    """Return how many times as long as a usual computer this one takes just now, 1 to 6."""
    begun, total = time.perf_counter(), 0
    for i in range(ROUNDS):
        total += i
    return min(MAX_SLOWER, max(1.0, (time.perf_counter() - begun) / USUAL_S))
