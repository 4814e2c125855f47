"""Readings that arrive from devices."""

from .placing import place
from .reading import arrive

__all__ = ["arrive", "place"]
