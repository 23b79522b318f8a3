"""Where requests go: the API under /api/, everything else is the page."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import path, re_path
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie

from thermaxis.api.mount import api
from thermaxis.api.problems import usual


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The one page of the front end; its routes are its own."""
    return render(request, "index.html")


def nothing_here(request: HttpRequest) -> HttpResponse:
    """What is under /api/ and no operation of it."""
    return usual(404)


handler500 = "thermaxis.api.problems.server_error"
urlpatterns = [path("api/", api.urls), re_path(r"^api/", nothing_here), re_path(r"^(?!api/|static/).*$", page)]
