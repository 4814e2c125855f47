"""How many may try a password at once, and how often from one address: hashing is slow on purpose, and must not stop the rest."""

from __future__ import annotations

import threading
import time
from collections import deque
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta

from axes.models import AccessAttempt
from django.conf import settings
from django.utils import timezone

from shared.errors import Later

AT_ONCE, WAIT_S = 2, 3.0
MAX_OF_AN_ADDRESS, WINDOW_S = 40, 900
MAX_ADDRESSES = 5000
_hashing = threading.BoundedSemaphore(AT_ONCE)
_tried: dict[str, deque[float]] = {}
_lock = threading.Lock()


@contextmanager
def one_attempt(address: str) -> Iterator[None]:
    """Within the block a password may be looked at. Raises Later when too many others are, or this address tried too often."""
    _count(address)
    if not _hashing.acquire(timeout=WAIT_S):
        raise Later("too-many", "Too many people are signing in. Try again in a few seconds.", 5, status=429)
    try:
        yield
    finally:
        _hashing.release()


def _count(address: str) -> None:
    now = time.monotonic()
    with _lock:
        if len(_tried) > MAX_ADDRESSES:
            _tried.clear()
        trial = _tried.setdefault(address, deque())
        while trial and now - trial[0] > WINDOW_S:
            trial.popleft()
        if len(trial) >= MAX_OF_AN_ADDRESS:
            wait = int(WINDOW_S - (now - trial[0])) + 1
            raise Later("too-many", "Too many tries from here. Wait a quarter of an hour.", wait, status=429)
        trial.append(now)


def succeeded(address: str) -> None:
    """A success ends the count."""
    with _lock:
        _tried.pop(address, None)


def forget_old() -> None:
    """Clear attempts that no longer shut anybody out: strangers must not fill the disk."""
    before = timezone.now() - timedelta(hours=2 * settings.AXES_COOLOFF_TIME)
    AccessAttempt.objects.filter(attempt_time__lt=before).delete()
