"""What may stand between a person and a change: each class is one kind of problem to the API."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.core.errors import ThermaxisError


class NotThere(ThermaxisError):
    """Nothing here for this workshop: whose it is otherwise is nobody's business."""


class NotAllowed(ThermaxisError):
    """The person is of the workshop, and their role does not go as far as this."""


class SecondFactorNeeded(ThermaxisError):
    """The workshop asks for a second factor, and the person has set up none."""


class SomebodyElse(ThermaxisError):
    """A page sends for one person, or one workshop, and the browser is signed in for another."""


class UnderWay(ThermaxisError):
    """Work that has to end first has not: `works` says what and for how long."""

    def __init__(self, works: list[str]) -> None:
        self.works = works
        super().__init__(f"Still running: {'; '.join(works)}. Nothing was changed. Wait for it, or stop it.")


@dataclass(frozen=True, kw_only=True)
class Differs:
    """One value that two people changed at once: what is kept now, and what came."""

    path: str
    kept: object
    yours: object


class Clash(ThermaxisError):
    """Somebody else has changed the same since it was read; `values` are both, nothing was changed."""

    def __init__(self, values: list[Differs]) -> None:
        self.values = values
        super().__init__(
            "Somebody else changed this in the meantime: "
            + "; ".join(f"{value.path} is {value.kept} now, you sent {value.yours}" for value in values)
        )
