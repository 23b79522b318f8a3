"""What an upgrade changed, told to owners once."""

from __future__ import annotations

import pytest

from tests.api.test_people import person
from tests.workshop import Api
from thermaxis import __version__
from thermaxis.apps.accounts.models import Membership, Role, Workshop
from thermaxis.apps.people.news import NEWS

pytestmark = pytest.mark.django_db


def test_owners_are_told_once_what_an_upgrade_changed(demo: Api, workshop: Workshop) -> None:
    # Who came with this version has nothing to catch up with.
    assert demo.get("/news") == {"version": __version__, "changed": []}
    before = Membership.objects.filter(user__username="demo")
    before.update(read_news_of="0.1.0")
    assert demo.get("/news")["changed"] == list(NEWS[__version__])
    before.update(read_news_of="")
    assert len(demo.get("/news")["changed"]) == sum(map(len, NEWS.values()))
    other = Workshop.objects.create(name="Elsewhere")
    Membership.objects.create(user=before.get().user, workshop=other)
    demo.put("/news/read", {}, status=204)
    assert demo.get("/news")["changed"] == []
    # One server was upgraded: it is not told again in the other workshop.
    assert set(before.values_list("read_news_of", flat=True)) == {__version__}
    ben = person(workshop, "ben", Role.OWNER)
    assert ben.get("/news")["changed"]
