"""Every page that shows what a file brought, drawn before it stays: a file whose rows no page can show is refused."""

from __future__ import annotations

import itertools
import logging
import re
from collections.abc import Iterator

from django.db import models
from django.http import HttpRequest
from django.urls import URLResolver, get_resolver, resolve

from thermaxis.apps.accounts.kept import kept_within
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.bed.models import BeddingRecord, BeddingRun
from thermaxis.apps.choose.models import Decision
from thermaxis.apps.fitted.models import PadSet, RotorPair
from thermaxis.apps.garage.models import Machine, RecordedRun
from thermaxis.apps.inspect.models import Inspection
from thermaxis.apps.job.models import Job
from thermaxis.apps.season.models import Event
from thermaxis.apps.solving.turns import without_waiting
from thermaxis.apps.workshop.portable.coming_in import Numbers
from thermaxis.core.errors import FieldError

log = logging.getLogger("thermaxis")
ROWS: dict[str, type[models.Model]] = {
    "machine_id": Machine,
    "run_id": RecordedRun,
    "inspection_id": Inspection,
    "decision_id": Decision,
    "job_id": Job,
    "plan_id": BeddingRecord,
    "bedding_run_id": BeddingRun,
    "event_id": Event,
    "pad_set_id": PadSet,
    "rotor_pair_id": RotorPair,
}
# What shows rows of several machines; what makes a file of what other pages show already.
LISTS = ("machines", "duties", "circuits", "runs", "owners", "log", "orders", "workshop/overview")
# Each of these solves the machine again: of many alike the latest tell.
SOLVED, MOST_SOLVED = (Event, BeddingRecord, BeddingRun), 2
FILES = re.compile(r"/(export|pdf|log-book|temperatures)$|\.(csv|xlsx|pdf|ics)$")
PLACE = re.compile(r"<(?:\w+:)?(\w+)>")
# A large workshop's pages are drawn up to here, its machines first: everybody's changes wait meanwhile.
MOST_PAGES = 3000


def draw(scope: Scope, numbers: Numbers) -> None:
    """Ask every page about every row that came in, within the change. FieldError for a row no page can show."""
    with without_waiting(), kept_within():
        for path in itertools.islice(_pages(numbers), MOST_PAGES):
            _draw(scope, path)


def _pages(numbers: Numbers) -> Iterator[str]:
    yield from (f"/api/{name}" for name in LISTS)
    for name, model in ROWS.items():
        for route in _routes(name):
            rows = sorted(numbers.get(model, {}).values(), reverse=True)
            for number in rows[:MOST_SOLVED] if model in SOLVED else rows:
                yield f"/api/{PLACE.sub(str(number), route)}"


def _routes(name: str) -> list[str]:
    """The addresses that name one row of this kind and nothing else."""
    found = next(entry for entry in get_resolver().url_patterns if str(entry.pattern) == "api/")
    assert isinstance(found, URLResolver)
    routes = [str(entry.pattern) for entry in found.url_patterns]
    return [route for route in routes if PLACE.findall(route) == [name] and not FILES.search(route)]


def _draw(scope: Scope, path: str) -> None:
    request = HttpRequest()
    request.method, request.path, request.path_info = "GET", path, path
    request.META = {"REMOTE_ADDR": "127.0.0.1", "SERVER_NAME": "localhost", "SERVER_PORT": "80"}
    # The doors let pass what the server asks of itself; no request from outside can bear this.
    request.user, request.inside = scope.user, scope  # type: ignore[attr-defined]
    found = resolve(path)
    try:
        status = found.func(request, *found.args, **found.kwargs).status_code
    # A row of another shape may raise nearly anything: whatever it is, its page cannot be shown.
    except Exception as error:
        log.info("a file was refused: %s does not answer, %s", path, type(error).__name__)
        status = 500
    if status >= 500:
        place = re.sub(r"/\d+", "", path.removeprefix("/api/"))
        raise FieldError("file", f"rows of {place}", "rows that every page can show")
