"""RFC 9457 problem+json for every error under /api/, whoever finds it: the API, Django, or a middleware before both."""

from __future__ import annotations

import json
import logging
import sys
from typing import Any

from django.core.exceptions import RequestDataTooBig, SuspiciousOperation
from django.db import DatabaseError, IntegrityError
from django.http import Http404, HttpRequest, HttpResponse, UnreadablePostError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.said import SaidOut, said_out
from thermaxis.apps.accounts.changes import AlreadyDone
from thermaxis.apps.accounts.errors import Clash, NotAllowed, NotThere, SecondFactorNeeded, SomebodyElse, UnderWay
from thermaxis.apps.accounts.sessions import CodeNeeded
from thermaxis.apps.accounts.signs import allowed_in
from thermaxis.apps.solving.turns import Busy
from thermaxis.core.errors import Bounds, FieldError, SolveError, Stopped
from thermaxis.core.said import verbatim

log = logging.getLogger("thermaxis")
MEDIA_TYPE = "application/problem+json"
SHOWN = 200
# What the database says of a number with the wrong sign, before the column's name.
OF_A_SIGN = "CHECK constraint failed: "


class FieldProblem(Wire):
    """One field that is not allowed."""

    field: str
    value: str
    allowed: str
    # Between what it must lie in SI, and by what rule: the page says it in the reader's words and units.
    least: float | None = None
    most: float | None = None
    above: bool = False
    below: bool = False
    said: SaidOut | None = None


class Problem(Wire):
    """What went wrong, for people and for programs."""

    type: str
    title: str
    status: int
    detail: str
    fields: list[FieldProblem] = []


# What an answer without words of its own is given: kind, title, what to do.
USUAL = {
    400: ("request", "The request cannot be read", "The request is not one this address can read."),
    401: ("sign-in", "Sign in first", "This needs a signed-in user."),
    403: ("forbidden", "Not allowed", "This page was opened too long ago or elsewhere: load it again and try again."),
    404: ("not-found", "Not found", "There is nothing here for this workshop."),
    405: ("method", "Not done this way", "This address does not take requests of this kind."),
    408: ("slow", "Too slow", "The request did not arrive in time: try again."),
    411: ("length", "How long is it?", "A request says how long it is before it is sent."),
    413: ("too-large", "Too large", "This is larger than what is taken here."),
    414: ("too-long", "Address too long", "The address is too long."),
    431: ("too-long", "Head too long", "The head of the request is too long."),
    500: ("fault", "A fault of ours", "Something went wrong here. What was kept before is safe: try again."),
    503: ("busy", "Not now", "The server cannot answer just now: try again in a moment."),
}
# What a database that cannot write says, and what to do about it; the first that is in its words counts.
STORAGE = (
    (
        "disk is full",
        507,
        "disk-full",
        "The disk is full",
        "Nothing was changed. Make room on the server's disk, then try again.",
    ),
    (
        "readonly",
        503,
        "read-only",
        "The database cannot be written",
        "Nothing was changed. The server may not write its database: see to the rights of its folder, then try again.",
    ),
    (
        "unable to open",
        503,
        "read-only",
        "The database cannot be opened",
        "Nothing was changed. See that the server's folder is there and may be written, then try again.",
    ),
    (
        "malformed",
        503,
        "damaged",
        "The database is damaged",
        "Stop the server and put a backup back before anything more is written.",
    ),
    (
        "not a database",
        503,
        "damaged",
        "The database is damaged",
        "Stop the server and put a backup back before anything more is written.",
    ),
    ("locked", 503, "busy", "Somebody else is writing", "Nothing was changed: try again in a moment."),
)


def problem(status: int, kind: str, title: str, detail: str, fields: list[FieldProblem] | None = None) -> HttpResponse:
    """Build the answer."""
    body = Problem(type=f"/problems/{kind}", title=title, status=status, detail=_plain(detail), fields=fields or [])
    return HttpResponse(json.dumps(body.model_dump()), status=status, content_type=MEDIA_TYPE)


def usual(status: int) -> HttpResponse:
    """The answer for a status nobody said more about."""
    return problem(status, *USUAL.get(status, USUAL[500 if status >= 500 else 400]))


def field_problem(error: FieldError) -> HttpResponse:
    """One field that is not allowed, as an answer."""
    bounds = error.bounds or Bounds()
    said = bounds.why if error.bounds else error.said
    entry = FieldProblem(
        field=_plain(error.path),
        value=_plain(str(error.value)),
        allowed=error.allowed,
        least=bounds.least,
        most=bounds.most,
        above=bounds.above,
        below=bounds.below,
        said=None if said is None or said == verbatim(error.allowed) else said_out(said),
    )
    return problem(422, "field", "A value is not allowed", str(error)[: 5 * SHOWN], [entry])


def _plain(text: str) -> str:
    """Text that can be sent whatever is in it, not longer than anybody reads."""
    return text[: 10 * SHOWN].encode("utf-8", "backslashreplace").decode()


def storage_problem(error: BaseException) -> HttpResponse | None:
    """What a database's error means to a person; None for a fault of ours."""
    if isinstance(error, IntegrityError):
        column = str(error).partition(OF_A_SIGN)[2]
        if column:
            # Nobody asked about it before it was written.
            return field_problem(FieldError(column, "", allowed_in(column)))
        return problem(409, "already-there", "Already there", "Somebody has just changed the same: load it again.")
    words = str(error).lower()
    found = next((entry for entry in STORAGE if entry[0] in words), None)
    return problem(*found[1:]) if found else None


def server_error(request: HttpRequest) -> HttpResponse:
    """Django's handler for what nobody caught, under /api/ and for the page."""
    error = sys.exc_info()[1]
    found = storage_problem(error) if isinstance(error, DatabaseError) else None
    found = found or usual(500)
    if request.path_info.startswith("/api/"):
        return found
    said = json.loads(found.content)
    # No template: it may be the disk that is gone.
    page = f"<!doctype html><title>{said['title']}</title><h1>{said['title']}</h1><p>{said['detail']}</p>"
    return HttpResponse(page, status=found.status_code)


def install(api: NinjaAPI) -> None:
    """Register one handler per class of error."""

    @api.exception_handler(FieldError)
    def field_error(request: HttpRequest, error: FieldError) -> HttpResponse:
        return field_problem(error)

    @api.exception_handler(SolveError)
    def solve_error(request: HttpRequest, error: SolveError) -> HttpResponse:
        return problem(409, "not-ready", "This cannot be done yet", str(error))

    _install_people(api)

    @api.exception_handler(NotThere)
    def not_there(request: HttpRequest, error: NotThere) -> HttpResponse:
        return usual(404)

    @api.exception_handler(Clash)
    def clash(request: HttpRequest, error: Clash) -> HttpResponse:
        fields = [
            FieldProblem(field=_plain(value.path), value=_plain(str(value.yours)), allowed=_plain(str(value.kept)))
            for value in error.values
        ]
        return problem(409, "changed", "Changed by somebody else", str(error), fields)

    @api.exception_handler(Stopped)
    def stopped(request: HttpRequest, error: Stopped) -> HttpResponse:
        return problem(409, "stopped", "Stopped", str(error))

    @api.exception_handler(Busy)
    def busy(request: HttpRequest, error: Busy) -> HttpResponse:
        found = problem(429, "busy", "Too much at once", str(error))
        found["Retry-After"] = "3"
        return found

    @api.exception_handler(AlreadyDone)
    def already_done(request: HttpRequest, error: AlreadyDone) -> HttpResponse:
        return problem(409, "already-done", "Done already", "This change was saved already: load it again to see it.")

    @api.exception_handler(DatabaseError)
    def database_error(request: HttpRequest, error: DatabaseError) -> HttpResponse:
        found = storage_problem(error)
        if found is None:
            raise error
        log.error("database: %s", error)
        return found

    @api.exception_handler(ValidationError)
    def validation_error(request: HttpRequest, error: ValidationError) -> HttpResponse:
        entries = [_entry(item) for item in error.errors[:50]]
        detail = "; ".join(f"'{entry.field}': {entry.allowed}" for entry in entries)
        return problem(422, "field", "A value is not allowed", detail, entries)

    @api.exception_handler(AuthenticationError)
    def not_signed_in(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return usual(401)

    @api.exception_handler(Http404)
    def not_found(request: HttpRequest, error: Http404) -> HttpResponse:
        return usual(404)

    @api.exception_handler(HttpError)
    def http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
        # What the parser found is wrapped once more on its way here.
        cause = error.__cause__
        if isinstance(cause, FieldError):
            return field_problem(cause)
        if isinstance(cause, RequestDataTooBig):
            return usual(413)
        return problem(error.status_code, "request", "The request cannot be answered", str(error))

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return usual(413)

    @api.exception_handler(SuspiciousOperation)
    def suspicious(request: HttpRequest, error: SuspiciousOperation) -> HttpResponse:
        return usual(400)

    @api.exception_handler(UnreadablePostError)
    def unreadable(request: HttpRequest, error: UnreadablePostError) -> HttpResponse:
        return usual(400)


def _install_people(api: NinjaAPI) -> None:
    """What stands between a person and what they asked for."""

    @api.exception_handler(NotAllowed)
    def not_allowed(request: HttpRequest, error: NotAllowed) -> HttpResponse:
        return problem(403, "role", "Not yours to change", str(error))

    @api.exception_handler(UnderWay)
    def under_way(request: HttpRequest, error: UnderWay) -> HttpResponse:
        return problem(409, "under-way", "Still running", str(error))

    @api.exception_handler(SomebodyElse)
    def somebody_else(request: HttpRequest, error: SomebodyElse) -> HttpResponse:
        return problem(409, "somebody-else", "Signed in as somebody else", str(error))

    @api.exception_handler(SecondFactorNeeded)
    def second_factor(request: HttpRequest, error: SecondFactorNeeded) -> HttpResponse:
        detail = "This workshop asks for a second factor: set yours up under Settings, then everything is here."
        return problem(403, "second-factor", "A second factor first", detail)

    @api.exception_handler(CodeNeeded)
    def code_needed(request: HttpRequest, error: CodeNeeded) -> HttpResponse:
        detail = "The code is wrong, or was used already." if error.wrong else "Type the code your device shows."
        return problem(401, "code", "A code as well", detail)


def _entry(item: dict[str, Any]) -> FieldProblem:
    place = ".".join(str(part) for part in item.get("loc", ()) if part not in ("body", "payload", "query"))
    value = item.get("input", "")
    rule = item.get("ctx", {})
    least, most = (next((rule[key] for key in keys if key in rule), None) for keys in (("gt", "ge"), ("lt", "le")))
    numbers = all(bound is None or isinstance(bound, int | float) for bound in (least, most))
    return FieldProblem(
        field=_plain(place)[:SHOWN],
        value=_plain(str(value)[:SHOWN]),
        allowed=str(item.get("msg", "")),
        least=least if numbers else None,
        most=most if numbers else None,
        above="gt" in rule,
        below="lt" in rule,
    )
