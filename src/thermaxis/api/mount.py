"""The API: routers mounted, problems installed, and a schema that tells the whole contract."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema
from ninja.security import django_auth

from thermaxis import __version__
from thermaxis.api.problems import Problem, install
from thermaxis.api.wire import StrictParser, StrictRenderer
from thermaxis.apps.accounts.api.router import router as accounts
from thermaxis.apps.catalogue.api.router import router as catalogue
from thermaxis.apps.garage.api.router import router as garage
from thermaxis.apps.work.api.router import router as work

PROBLEMS = ("400", "401", "403", "404", "405", "409", "411", "413", "414", "422", "429", "503", "507")


class ThermaxisAPI(NinjaAPI):
    """Adds to every operation of the schema the problems it may answer with."""

    def get_openapi_schema(self, **options: Any) -> OpenAPISchema:
        schema = super().get_openapi_schema(**options)
        components = schema.setdefault("components", {}).setdefault("schemas", {})
        definition = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
        components.update(definition.pop("$defs", {}))
        components["Problem"] = definition
        answer = {
            "description": "Problem",
            "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
        }
        for methods in schema["paths"].values():
            for operation in methods.values():
                for status in PROBLEMS:
                    operation["responses"].setdefault(status, answer)
        return schema


api = ThermaxisAPI(
    title="Thermaxis", version=__version__, auth=django_auth, docs_url=None, openapi_url=None, parser=StrictParser(),
    renderer=StrictRenderer(),
)  # fmt: skip
install(api)
api.add_router("", accounts, tags=["session"])
api.add_router("", catalogue, tags=["catalogue"])
api.add_router("", garage, tags=["garage"])
api.add_router("", work, tags=["work"])
