"""Who asks: the address a request came from, and whether anybody stands between."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest

FORWARDING = (
    "HTTP_FORWARDED",
    "HTTP_VIA",
    "HTTP_X_FORWARDED_FOR",
    "HTTP_X_FORWARDED_HOST",
    "HTTP_X_FORWARDED_PROTO",
    "HTTP_X_REAL_IP",
)
MAX_ADDRESS = 45


def client_address(request: HttpRequest) -> str:
    """The nearest address that is none of our own proxies; a header of anybody else's is not believed."""
    address = str(request.META.get("REMOTE_ADDR") or "")
    trusted = settings.NAVETA.trusted_proxies
    if address not in trusted:
        return address
    for found in reversed(str(request.META.get("HTTP_X_FORWARDED_FOR", "")).split(",")):
        if found.strip() and found.strip() not in trusted:
            return found.strip()[:MAX_ADDRESS]
    return address


def forwarded(request: HttpRequest) -> bool:
    """Whether the request went through anything on its way here."""
    return any(name in request.META for name in FORWARDING)
