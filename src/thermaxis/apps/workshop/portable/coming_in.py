"""A workshop's file read in: checked as a whole, every row or none."""

from __future__ import annotations

import base64
import binascii
import math
from collections.abc import Mapping
from typing import Any

from django.core.exceptions import ValidationError
from django.db import IntegrityError, models

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.accounts.shaped import ShapedField
from thermaxis.apps.catalogue.models import Fluid, Pad, PadVariant, Rotor
from thermaxis.apps.fitted.models import FluidFill, Hose, Intended, PadReading, RotorReading
from thermaxis.apps.garage import mapping
from thermaxis.apps.garage.models import Machine, Owner
from thermaxis.apps.job.models import Job
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.workshop.portable.going_out import FORMAT
from thermaxis.apps.workshop.portable.older import LISTED, with_shapes
from thermaxis.apps.workshop.portable.tables import NAMES, SECRETS, WHO, columns, is_owned, is_photo, neighbours, tables
from thermaxis.core.errors import FieldError
from thermaxis.formats.picture import redrawn

MOST_ROWS = 200_000
FROM_FILE = "from a file: "
Numbers = dict[type[models.Model], dict[int, int]]
# Columns of JSON and text that name rows by their numbers.
OFF = {"fill": FluidFill, "hoses": Hose, "pad_readings": PadReading, "rotor_readings": RotorReading}
# Of one name there is one in a workshop: a machine that comes brings its own only where none is there.
NAMED: dict[type[models.Model], tuple[str, ...]] = {
    Owner: ("name",),
    Pad: ("name",),
    Rotor: ("name", "mount"),
    Fluid: ("name",),
}


def check_document(document: Any, what: str) -> dict[str, list[dict[str, Any]]]:
    """Refuse what is no such file, before anything is made of it. FieldError; gives its tables."""
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        found = document.get("format") if isinstance(document, dict) else type(document).__name__
        raise FieldError("file", str(found)[:60], f"a file of the format {FORMAT}")
    if document.get("what") != what:
        raise FieldError("file", str(document.get("what"))[:40], f"the file of a {what}")
    found = document.get("tables")
    labels = {*LISTED.values(), *(model._meta.label for model in tables())}
    if not isinstance(found, dict) or not set(found) <= labels:
        raise FieldError("file", "tables", "tables of this program's edition or an older one")
    for label, rows in found.items():
        if not isinstance(rows, list) or not all(isinstance(row, dict) for row in rows):
            raise FieldError("file", label, "rows with named values")
    if sum(map(len, found.values())) > MOST_ROWS:
        raise FieldError("file", f"over {MOST_ROWS} rows", f"at most {MOST_ROWS} rows")
    return with_shapes(found)


def make_rows(scope: Scope, document: Mapping[str, list[dict[str, Any]]], *, merge: bool) -> Numbers:
    """Make every row of a file, within an act; gives the new number of each. FieldError where one cannot be.

    `merge`: parts and owners of a name that is here already are those that are here.
    """
    numbers: Numbers = {}
    # Numbers of rows that are here already, as the file has them.
    merged: dict[type[models.Model], set[int]] = {}
    later: list[tuple[models.Model, models.ForeignKey, int]] = []  # type: ignore[type-arg]
    try:
        for model in tables():
            numbers[model] = {}
            made = []
            for row in document.get(model._meta.label, []):
                number = row.get("id")
                if not isinstance(number, int) or number in numbers[model]:
                    raise FieldError("file", f"{model._meta.label} {number}", "rows with numbers of their own")
                if merge and _is_here(scope, model, row, numbers, merged):
                    continue
                numbers[model][number] = 0
                made.append((number, _row(scope, model, row, numbers, later)))
            model._default_manager.bulk_create([one for _, one in made], batch_size=200)
            for number, one in made:
                numbers[model][number] = one.pk
            _keep_times(model, [one for _, one in made], document.get(model._meta.label, []), numbers)
        for made_row, field, number in later:
            setattr(made_row, field.attname, _number(numbers, field, number, may_be_gone=merge))
        for model in tables():
            these = {one.pk: one for one, _, _ in later if type(one) is model}
            names = sorted({field.name for one, field, _ in later if type(one) is model})
            if these:
                model._default_manager.bulk_update(list(these.values()), names, batch_size=100)
    except IntegrityError as error:
        raise FieldError("file", str(error)[:80], "rows that agree with each other") from None
    _rename(numbers)
    for machine in Machine.objects.filter(pk__in=numbers.get(Machine, {}).values()).prefetch_related("axles"):
        mapping.check(machine)
    return numbers


def _is_here(
    scope: Scope,
    model: type[models.Model],
    row: Mapping[str, Any],
    numbers: Numbers,
    merged: dict[type[models.Model], set[int]],
) -> bool:
    """Whether a row of the file is here already: a part or an owner of its name, and what hangs on one."""
    names, number = NAMED.get(model), row["id"]
    if names is not None:
        rows = model._default_manager.filter(workshop=scope.workshop)
        found = next((one for one in rows if all(getattr(one, name) == row.get(name) for name in names)), None)
        if found is None or getattr(found, "user_id", None) is not None:
            # What an owner of that name who is a member here drives, a file does not add to.
            return False
        numbers[model][number] = found.pk
        merged.setdefault(model, set()).add(number)
        return True
    for field in neighbours(model):
        parent = row.get(field.name) or 0
        if field.remote_field.on_delete is not models.CASCADE or parent not in merged.get(field.related_model, ()):
            continue
        if model is PadVariant:
            there = PadVariant.objects.filter(pad_id=numbers[Pad][parent], shape=str(row.get("shape"))).first()
            if there is None:
                return False
            numbers[model][number] = there.pk
        merged.setdefault(model, set()).add(number)
        return True
    return False


def _row(
    scope: Scope,
    model: type[models.Model],
    row: Mapping[str, Any],
    numbers: Numbers,
    later: list[tuple[models.Model, models.ForeignKey, int]],  # type: ignore[type-arg]
) -> models.Model:
    made = model(**({"workshop": scope.workshop} if is_owned(model) else {}))
    near, unread = neighbours(model), SECRETS.get(model._meta.label, ())
    for field in columns(model):
        if field.name not in row or field.name in unread:
            continue
        value = row[field.name]
        where = f"{model._meta.label} {row['id']}: {field.name}"
        if isinstance(field, models.ForeignKey) and field not in near:
            # A person: in a file a name is text, and gives nobody here anything.
            continue
        if isinstance(field, models.ForeignKey):
            if value is None:
                continue
            if not isinstance(value, int):
                raise FieldError("file", where, "a row's number")
            if field.null:
                later.append((made, field, value))
            else:
                setattr(made, field.attname, _number(numbers, field, value))
        else:
            setattr(made, field.name, _value(field, value, where))
    _mark(scope, made)
    return made


def _mark(scope: Scope, made: models.Model) -> None:
    """Who did what elsewhere is said so; an entry of the log bears for good that it came from a file."""
    for name in NAMES.get(made._meta.label, ()):
        setattr(made, name, from_a_file(getattr(made, name)))
    if isinstance(made, LogEntry):
        made.from_file = True
    if isinstance(made, Job):
        made.content = _with_marks(made.content)
    if isinstance(made, Owner) and Owner.objects.of(scope.workshop).filter(name=made.name, user__isnull=False).exists():
        made.name = f"{made.name[:100]} (from a file)"


def from_a_file(name: str) -> str:
    """The name of somebody elsewhere, as text that nobody here is called."""
    return name if not name or name.startswith(FROM_FILE) else f"{FROM_FILE}{name}"[:150]


def _with_marks(value: Any) -> Any:
    if isinstance(value, list):
        return [_with_marks(one) for one in value]
    if not isinstance(value, dict):
        return value
    return {
        key: from_a_file(one) if key in WHO and isinstance(one, str) else _with_marks(one) for key, one in value.items()
    }


def _number(
    numbers: Numbers,
    field: models.ForeignKey,  # type: ignore[type-arg]
    value: int,
    *,
    may_be_gone: bool = False,
) -> int | None:
    found = numbers.get(field.related_model, {}).get(value)
    if not found and not may_be_gone:
        raise FieldError("file", f"{field.model._meta.label}.{field.name}: {value}", "a row of the same file")
    return found


def _value(field: models.Field, value: Any, where: str) -> Any:  # type: ignore[type-arg]
    """A value as its column takes it; FieldError where it does not."""
    if isinstance(field, models.BinaryField):
        try:
            content = base64.b64decode(str(value), validate=True)
        except (binascii.Error, ValueError):
            raise FieldError("file", where, "base64") from None
        # Whatever a file calls a picture is drawn again here: nothing else of it is stored.
        return redrawn(content) if is_photo(field.model) else content
    if isinstance(value, float) and not math.isfinite(value):
        raise FieldError("file", where, "a finite number")
    if isinstance(field, ShapedField):
        field.check_shape(value)
        return value
    if value is None and field.null:
        return None
    plain = isinstance(field, models.CharField | models.TextField)
    if plain and not isinstance(value, str):
        raise FieldError("file", where, "text")
    if isinstance(field, models.FloatField | models.IntegerField) and isinstance(value, bool | str):
        raise FieldError("file", where, "a number")
    try:
        clean = field.to_python(value)
        if plain and field.max_length is not None and len(clean) > field.max_length:
            raise FieldError("file", where, f"at most {field.max_length} characters")
        if isinstance(field, models.FloatField) and clean is not None and abs(clean) > 1e15:
            raise FieldError("file", where, "a number within reason")
    except (ValidationError, ValueError, TypeError, OverflowError):
        raise FieldError("file", where, "a value of its kind") from None
    if field.choices and clean not in (None, "", *(known for known, _ in field.flatchoices)):
        raise FieldError("file", where, "one of " + ", ".join(str(known) for known, _ in field.flatchoices))
    return clean


def _keep_times(
    model: type[models.Model], made: list[models.Model], rows: list[dict[str, Any]], numbers: Numbers
) -> None:
    """Moments that a row gets by itself are those of the file again."""
    own = [
        field for field in columns(model) if getattr(field, "auto_now_add", False) or getattr(field, "auto_now", False)
    ]
    if not own or not made:
        return
    by_number = {numbers[model][row["id"]]: row for row in rows if row.get("id") in numbers[model]}
    for row in made:
        for field in own:
            where = f"{model._meta.label}: {field.name}"
            setattr(row, field.name, _value(field, by_number[row.pk].get(field.name), where))
    # Written past what sets them to now.
    model._default_manager.bulk_update(made, [field.name for field in own], batch_size=100)


def _rename(numbers: Numbers) -> None:
    """Numbers of rows in text and JSON become the new ones: what the log is about, sets by their key, what came off."""
    verbose = {str(model._meta.verbose_name): model for model in tables()}
    for entry in LogEntry.objects.filter(pk__in=numbers.get(LogEntry, {}).values()).iterator():
        things = [_thing(words, verbose, numbers) for words in entry.things]
        if things != entry.things:
            LogEntry.objects.filter(pk=entry.pk).update(things=things)
    for intended in Intended.objects.filter(pk__in=numbers.get(Intended, {}).values()):
        Intended.objects.filter(pk=intended.pk).update(key=_key(intended.key, numbers))
    for job in Job.objects.filter(pk__in=numbers.get(Job, {}).values()):
        Job.objects.filter(pk=job.pk).update(key=_key(job.key, numbers), off=_off(job.off, numbers))


def _thing(words: str, verbose: Mapping[str, type[models.Model]], numbers: Numbers) -> str:
    name, _, number = words.rpartition(" ")
    model = verbose.get(name)
    if model is None or not number.isdigit():
        return words
    found = numbers.get(model, {}).get(int(number))
    # One that is not in the file is nothing here, whatever its number may be of.
    return f"{name} {found}" if found else name


def _key(key: str, numbers: Numbers) -> str:
    parts = key.split("-")
    if len(parts) != 4:
        return ""
    models_of: tuple[type[models.Model], ...] = (Pad, Pad, Rotor, Rotor)
    return "-".join(
        str(numbers.get(model, {}).get(int(part), 0)) if part.isdigit() else part
        for part, model in zip(parts, models_of, strict=True)
    )


def _off(off: dict[str, Any], numbers: Numbers) -> dict[str, Any]:
    """What came off, by the new numbers; a row that is not in the file is none: opening the job again deletes these."""
    found = dict(off)
    for name, model in OFF.items():
        if name not in found:
            continue
        value, known = found.pop(name), numbers.get(model, {})
        if isinstance(value, list):
            found[name] = [known[one] for one in value if known.get(one)]
        elif known.get(value):
            found[name] = known[value]
    return found
