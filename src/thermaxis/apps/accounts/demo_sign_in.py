"""Sign the demo user in by itself: only where the demo asked for it, only for visitors on the loopback address."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.contrib.auth import get_user_model, login
from django.http import HttpRequest, HttpResponse

LOOPBACK = ("127.0.0.1", "::1")
DEMO_USER = "demo"


class DemoSignIn:
    """Middleware that signs the demo user in when `DEMO_SIGN_IN` is set."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        on_loopback = request.META.get("REMOTE_ADDR") in LOOPBACK
        # A proxy would make every visitor look local, so a forwarded request is never signed in.
        forwarded = "HTTP_X_FORWARDED_FOR" in request.META or "HTTP_FORWARDED" in request.META
        if settings.DEMO_SIGN_IN and on_loopback and not forwarded and not request.user.is_authenticated:
            user = get_user_model().objects.filter(username=DEMO_USER).first()
            if user is not None:
                login(request, user, backend="django.contrib.auth.backends.ModelBackend")
        return self.get_response(request)
