"""RFC 9457 problem+json for every error the API gives."""

from __future__ import annotations

import json
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError

from thermaxis.core.errors import FieldError, SolveError, Stopped


class FieldProblem(Schema):
    """One field that is not allowed."""

    field: str
    value: str
    allowed: str


class Problem(Schema):
    """What went wrong, for people and for programs."""

    type: str
    title: str
    status: int
    detail: str
    fields: list[FieldProblem] = []


def problem(status: int, kind: str, title: str, detail: str, fields: list[FieldProblem] | None = None) -> HttpResponse:
    """Build the answer."""
    body = Problem(type=f"/problems/{kind}", title=title, status=status, detail=detail, fields=fields or [])
    return HttpResponse(json.dumps(body.dict()), status=status, content_type="application/problem+json")


def install(api: NinjaAPI) -> None:
    """Register one handler per class of error."""

    @api.exception_handler(FieldError)
    def field_error(request: HttpRequest, error: FieldError) -> HttpResponse:
        entry = FieldProblem(field=error.path, value=str(error.value), allowed=error.allowed)
        return problem(422, "field", "A value is not allowed", str(error), [entry])

    @api.exception_handler(SolveError)
    def solve_error(request: HttpRequest, error: SolveError) -> HttpResponse:
        return problem(409, "not-ready", "This cannot be done yet", str(error))

    @api.exception_handler(Stopped)
    def stopped(request: HttpRequest, error: Stopped) -> HttpResponse:
        return problem(409, "stopped", "Stopped", "The computation was stopped before it was done.")

    @api.exception_handler(ValidationError)
    def validation_error(request: HttpRequest, error: ValidationError) -> HttpResponse:
        entries = [_entry(item) for item in error.errors]
        detail = "; ".join(f"'{entry.field}': {entry.allowed}" for entry in entries)
        return problem(422, "field", "A value is not allowed", detail, entries)

    @api.exception_handler(AuthenticationError)
    def not_signed_in(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return problem(401, "sign-in", "Sign in first", "This needs a signed-in user.")

    @api.exception_handler(Http404)
    def not_found(request: HttpRequest, error: Http404) -> HttpResponse:
        return problem(404, "not-found", "Not found", "There is nothing here for this workshop.")

    @api.exception_handler(HttpError)
    def http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
        return problem(error.status_code, "request", "The request cannot be answered", str(error))


def _entry(item: dict[str, Any]) -> FieldProblem:
    place = ".".join(str(part) for part in item.get("loc", ()) if part not in ("body", "payload", "query"))
    value = item.get("input", "")
    return FieldProblem(field=place, value=str(value)[:200], allowed=str(item.get("msg", "")))
