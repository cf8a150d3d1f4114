"""Colour keys to start from: ready-made ones, and a person's own."""

from typing import Annotated

from django.http import Http404, HttpResponse
from ninja import Router
from pydantic import Field

from config.downloads import named
from config.requests import Request
from config.schema import Schema
from keys.models import KeptKey
from keys.services.keep import keep
from nubilis.mask.named_key import NamedKey, read_keys, write_keys
from nubilis.mask.ready_keys import ready_keys

router = Router(tags=["keys"])


class KeyOut(Schema):
    """id: None for a ready-made one."""

    id: int | None
    key: NamedKey


class KeysIn(Schema):
    text: Annotated[str, Field(max_length=2_000_000)]


class KeysKept(Schema):
    """changed: how many took the place of one of the same name."""

    added: int
    changed: int


@router.get("/keys", response=list[KeyOut])
def keys(request: Request) -> list[KeyOut]:
    ready = [KeyOut(id=None, key=k) for k in ready_keys()]
    return ready + [KeyOut(id=r.id, key=r.key) for r in KeptKey.objects.filter(owner=request.user)]


@router.post("/keys", response=KeysKept)
def add(request: Request, payload: NamedKey) -> KeysKept:
    """Keep a key; one of the same name is replaced."""
    return _kept(request, (payload,))


@router.delete("/keys/{int:key_id}", response={204: None})
def remove(request: Request, key_id: int) -> tuple[int, None]:
    if not KeptKey.objects.filter(owner=request.user, id=key_id).delete()[0]:
        raise Http404
    return 204, None


@router.post("/keys/import", response=KeysKept)
def bring_in(request: Request, payload: KeysIn) -> KeysKept:
    """A file's text."""
    return _kept(request, read_keys(payload.text))


@router.get("/keys/export.json")
def take_out(request: Request) -> HttpResponse:
    """What the person keeps, as a file."""
    text = write_keys(r.key for r in KeptKey.objects.filter(owner=request.user))
    response = HttpResponse(text, content_type="application/json")
    named(response, "keys.json")
    return response


def _kept(request: Request, given: tuple[NamedKey, ...]) -> KeysKept:
    added = keep(request.user, given)
    return KeysKept(added=added, changed=len({k.name for k in given}) - added)
