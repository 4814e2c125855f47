"""Answers of the API made small on their way. What holds a secret beside what somebody else may have put in is not."""

from __future__ import annotations

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware

SECRET = ("/api/session",)


class PackMiddleware(GZipMiddleware):
    """Django's gzip for /api/ alone: whitenoise serves the page's own files packed beforehand."""

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        if not request.path.startswith("/api/") or request.path.startswith(SECRET):
            return response
        return super().process_response(request, response)
