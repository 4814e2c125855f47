"""Readings that arrive from devices."""

from .lines import DeviceLine, DeviceLines

__all__ = ["DeviceLine", "DeviceLines"]
