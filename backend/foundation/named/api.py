"""HTTP: what a company names, each kind at an address of its own."""

from collections.abc import Callable, Mapping
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Field, Path, Router, Schema, Status

from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.named import commands
from foundation.named.rows import LONGEST_KEY, Named
from foundation.schemas import Text

Code = Annotated[Text, Field(max_length=LONGEST_KEY)]
CodeInPath = Annotated[Text, Path(max_length=LONGEST_KEY)]


class KeyNameOut(Schema):
    """`code` is what is held; the name may change. A retired one is not offered any more. `holders` is how many people
    have it today, where people can."""

    code: str
    name: str
    retired: bool
    version: int
    holders: int | None = None


class KeyNameIn(Schema):
    name: Text = Field(min_length=1, max_length=80)


class KeyNameChangeIn(KeyNameIn):
    version: int = Field(ge=1, le=2**31 - 1)
    retired: bool = False


class KeyNameMergeIn(Schema):
    """`into` is the key of the one that is kept."""

    version: int = Field(ge=1, le=2**31 - 1)
    into: Code


class KeyNameUseOut(Schema):
    what: str
    count: int


def serve(
    router: Router, path: str, model: type[Named], *, see: Action,
    holders: Callable[[], Mapping[str, int]] | None = None,
) -> None:  # fmt: skip
    """Add the addresses under which one kind is listed, added to, renamed, retired and merged.

    Parameters
    ----------
    see
        What who reads the list must be allowed to do; who changes it must be allowed to change settings.
    holders
        How many people have each one today, by key; whoever is not in it has nobody.
    """
    kind = model._meta.model_name
    change = Needs(Action.CHANGE_SETTINGS)

    def how(request: HttpRequest) -> dict[str, Any]:
        return {"actor": actor_of(request), "now": clock.now()}

    @router.get(path, response=list[KeyNameOut], auth=Needs(see), operation_id=f"list_{kind}", summary=f"All: {kind}")
    def listed(request: HttpRequest) -> list[KeyNameOut]:
        counted = holders() if holders else None
        return [_out(row, None if counted is None else counted.get(row.code, 0)) for row in commands.listed(model)]

    @router.post(path, response={201: KeyNameOut}, auth=change, operation_id=f"add_{kind}", summary=f"Add: {kind}")
    def add(request: HttpRequest, body: KeyNameIn) -> Status[Named]:
        """The one of that name; made if there is none."""
        return Status(201, commands.add(model, **how(request), name=body.name))

    @router.put(f"{path}/{{code}}", response=KeyNameOut, auth=change, operation_id=f"change_{kind}",
                summary=f"Rename or retire: {kind}")  # fmt: skip
    def rename(request: HttpRequest, code: CodeInPath, body: KeyNameChangeIn) -> Named:
        return commands.change(
            model, **how(request), code=code, version=body.version, name=body.name, retired=body.retired
        )

    @router.get(f"{path}/{{code}}/uses", response=list[KeyNameUseOut], auth=Needs(see), operation_id=f"uses_of_{kind}",
                summary=f"Who holds it: {kind}")  # fmt: skip
    def uses(request: HttpRequest, code: CodeInPath) -> list[commands.Used]:
        return commands.used_by(model, code)

    @router.post(f"{path}/{{code}}/merge", response=KeyNameOut, auth=change, operation_id=f"merge_{kind}",
                 summary=f"Merge into another: {kind}")  # fmt: skip
    def merge(request: HttpRequest, code: CodeInPath, body: KeyNameMergeIn) -> Named:
        """Whoever holds this key holds the other one from now on."""
        return commands.merge(model, **how(request), code=code, version=body.version, into=body.into)


def _out(row: Named, holders: int | None) -> KeyNameOut:
    return KeyNameOut(code=row.code, name=row.name, retired=row.retired, version=row.version, holders=holders)
