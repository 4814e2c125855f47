"""Addresses: the API, and for everything else the web's one page."""

from django.http import FileResponse, HttpRequest, HttpResponse
from django.urls import path, re_path

from config.api import api
from shared.errors import missing_page

handler404 = missing_page


def page(request: HttpRequest) -> HttpResponse | FileResponse:
    """The single page; its own router finds the place."""
    from django.conf import settings

    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return HttpResponse("The web is not built yet: run `make setup`.", status=503, content_type="text/plain")
    response = FileResponse(index.open("rb"), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


urlpatterns = [
    path("api/", api.urls),
    re_path(r"^(?!api/|assets/).*$", page),
]
