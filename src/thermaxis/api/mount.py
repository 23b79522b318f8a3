"""The API: routers mounted, problems installed, and a schema that tells the whole contract."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

from thermaxis import __version__
from thermaxis.api.once import answered_before
from thermaxis.api.problems import Problem, install
from thermaxis.api.wire import StrictParser, StrictRenderer
from thermaxis.apps.accounts.api.router import router as accounts
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN
from thermaxis.apps.accounts.changes import AnsweredBefore
from thermaxis.apps.bed.api.router import router as bed
from thermaxis.apps.catalogue.api.router import router as catalogue
from thermaxis.apps.choose.api.choosing import router as choosing
from thermaxis.apps.choose.api.decisions import router as decisions
from thermaxis.apps.choose.api.fits import router as fits
from thermaxis.apps.duty.api.duties import router as duties
from thermaxis.apps.duty.api.questions import router as questions
from thermaxis.apps.duty.api.runs import router as runs
from thermaxis.apps.duty.api.traces import router as traces
from thermaxis.apps.fit.api.router import router as fit
from thermaxis.apps.inspect.api.router import router as inspect
from thermaxis.apps.job.api.router import router as job
from thermaxis.apps.life.api.router import router as life
from thermaxis.apps.life.api.season import router as season
from thermaxis.apps.logbook.api.router import router as logbook
from thermaxis.apps.machine.api.balance import router as balance
from thermaxis.apps.machine.api.machines import router as adding
from thermaxis.apps.machine.api.router import router as machines
from thermaxis.apps.people.api.joining import router as joining
from thermaxis.apps.people.api.me import router as me
from thermaxis.apps.people.api.router import router as people
from thermaxis.apps.safekeeping.api.router import router as safekeeping
from thermaxis.apps.solving.api.following import router as following
from thermaxis.apps.workshop.api.planner import router as planner
from thermaxis.apps.workshop.api.portable import router as portable
from thermaxis.apps.workshop.api.router import router as workshop

ROUTERS = {
    "session": (accounts, me, joining),
    "people": (people,),
    "safekeeping": (safekeeping,),
    "catalogue": (catalogue,),
    "machine": (machines, adding, balance),
    "duty": (duties, traces, questions, runs),
    "inspect": (inspect,),
    "choose": (choosing, decisions, fits),
    "fit": (fit,),
    "job": (job,),
    "bed": (bed,),
    "life": (life, season),
    "log": (logbook,),
    "workshop": (workshop, planner, portable, following),
}
PROBLEMS = (400, 401, 403, 404, 405, 409, 411, 413, 414, 422, 429, 503, 507)


class ThermaxisAPI(NinjaAPI):
    """Adds to the schema what every operation may answer instead: a problem, whatever its status."""

    def get_openapi_schema(self, **options: Any) -> OpenAPISchema:
        schema = super().get_openapi_schema(**options)
        components = schema.setdefault("components", {}).setdefault("schemas", {})
        definition = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
        components.update(definition.pop("$defs", {}))
        components["Problem"] = definition
        schema["components"]["responses"] = {
            "Problem": {
                "description": f"Why not, with status {', '.join(map(str, PROBLEMS[:-1]))} or {PROBLEMS[-1]}",
                "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
            }
        }
        for methods in schema["paths"].values():
            for operation in methods.values():
                operation["responses"]["default"] = {"$ref": "#/components/responses/Problem"}
        return schema


api = ThermaxisAPI(
    title="Thermaxis",
    version=__version__,
    auth=SIGNED_IN,
    docs_url=None,
    openapi_url=None,
    parser=StrictParser(),
    renderer=StrictRenderer(),
)
install(api)


@api.exception_handler(AnsweredBefore)
def same_again(request: HttpRequest, error: AnsweredBefore) -> HttpResponse:
    """A change that arrives twice."""
    return answered_before(error)


for tag, routers in ROUTERS.items():
    for router in routers:
        api.add_router("", router, tags=[tag])
