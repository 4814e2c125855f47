"""Addresses: the API, and for everything else the web's one page."""

from django.urls import path, re_path

from config.api import api
from config.page import page
from shared.errors import missing_page

handler404 = missing_page


urlpatterns = [
    path("api/", api.urls),
    re_path(r"^(?!api/|assets/).*$", page),
]
