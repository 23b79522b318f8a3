"""How an application's actions become known: before any model is loaded, so nothing of ours is imported here."""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from django.apps import AppConfig


class WithActions(AppConfig):
    """An application whose actions are declared as soon as it is ready, whatever else imports them."""

    def ready(self) -> None:
        package = import_module(f"{self.name}.actions")
        for module in iter_modules(package.__path__):
            import_module(f"{self.name}.actions.{module.name}")
