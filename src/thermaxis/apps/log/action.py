"""What can be changed in a workshop: each action declared once, in the module that does it.

A declaration says who may, by what key, how the log tells it, and how far it is seen; `act` holds every change to it.
"""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass

from thermaxis.apps.accounts.errors import NotAllowed
from thermaxis.apps.accounts.models import Reach, Role
from thermaxis.apps.accounts.scope import Scope

KINDS = (
    "parts",
    "reading",
    "job",
    "bedding",
    "event",
    "order",
    "decision",
    "machine",
    "duty",
    "catalogue",
    "people",
    "note",
)
OWNERS = frozenset({Role.OWNER})
CREW = OWNERS | {Role.FITTER}
# A driver goes as far as machines of their own.
DRIVERS = CREW | {Role.DRIVER}
EVERYBODY = frozenset(Role)


# Every action by its name, as the log has it.
ACTIONS: dict[str, Action] = {}


@dataclass(frozen=True)
class Action:
    """One kind of change, known by its name once it is declared. ValueError for a name that is taken, or a kind the
    log does not know.

    `words`, `kind`: its line in the log, and what it is found under.
    `roles`: who may. `keys`: the least reach of a key that may, if its person may.
    `begun_by_self`: a driver may only where they began the row.
    `nearby`: nothing but its own machine looks different after it, so that no other answer is computed again.
    `quiet`: so many of them in a row are one line of the log.
    `gives_history`: the parts on the machine have a history after it, and a fitting before it stays.
    `taken_back_with`: why a fitting it made is not taken back by itself; empty where it is.
    """

    name: str
    words: str
    _: KW_ONLY
    kind: str
    roles: frozenset[Role] = CREW
    keys: Reach = Reach.ALL
    begun_by_self: bool = False
    nearby: bool = False
    quiet: bool = False
    gives_history: bool = False
    taken_back_with: str = ""

    def __post_init__(self) -> None:
        if self.name in ACTIONS:
            raise ValueError(f"action declared twice: {self.name}")
        if self.kind not in KINDS:
            raise ValueError(f"{self.name}: kind must be one of {', '.join(KINDS)}: {self.kind}")
        ACTIONS[self.name] = self

    def open_to(self, role: Role, reach: Reach = Reach.ALL) -> bool:
        """Whether a role, by a key of this reach, goes as far as this, whatever machine it is about."""
        if reach == Reach.READ or (reach == Reach.READINGS and self.keys != Reach.READINGS):
            return False
        return role in self.roles

    def must_be_open_to(self, scope: Scope) -> None:
        """NotAllowed where the role, or the key at work, does not go as far as this."""
        if not self.open_to(scope.role, scope.reach):
            who = f"As {scope.role} of {scope.workshop} you" if scope.reach == Reach.ALL else "This key"
            raise NotAllowed(f"{who} can see this, and not change it.")
