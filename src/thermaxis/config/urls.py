"""Where requests go: the API under /api/, everything else is the page."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.urls import path, re_path

from thermaxis.api.mount import api
from thermaxis.api.problems import usual
from thermaxis.config.page import page


def nothing_here(request: HttpRequest) -> HttpResponse:
    """What is under /api/ and no operation of it."""
    return usual(404)


handler500 = "thermaxis.api.problems.server_error"
urlpatterns = [path("api/", api.urls), re_path(r"^api/", nothing_here), re_path(r"^(?!api/|static/).*$", page)]
