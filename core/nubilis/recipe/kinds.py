"""What kinds of parts and remedies there are, told once for all who name them or show their settings."""

from typing import Any, get_args

from pydantic import BaseModel

from nubilis.mask.combine import AnyPart
from nubilis.mask.refine import Refine
from nubilis.recipe.document import MOST_CASTS, MOST_TOUCHED
from nubilis.remedy.kinds import AnyRemedy


def letter(index: int) -> str:
    """A, B ... Z, AA, AB ... from 0 on."""
    last = chr(65 + index % 26)
    return last if index < 26 else letter(index // 26 - 1) + last


def described() -> dict[str, Any]:
    """Of every kind its name, how it rests, the least and most of its numbers, and whether it needs a colour
    to aim at; whether a remedy follows the amounts of its cast; the most that a touch may say; casts'
    letters."""
    return {
        "parts": {k: _kind(model) for k, model in _kinds(AnyPart).items()},
        "remedies": {
            k: _kind(model) | {"follows": model.follows_cast}
            for k, model in _kinds(AnyRemedy).items()
        },
        "most_touched": MOST_TOUCHED,
        "refine": _resting(Refine),
        "letters": [letter(i) for i in range(MOST_CASTS)],
    }


def _kinds(union: Any) -> dict[str, Any]:
    """The models of a registry, by the kind that each is."""
    models = get_args(get_args(union)[0])
    return {model.model_fields["kind"].default: model for model in models}


def _kind(model: Any) -> dict[str, Any]:
    aimed = "target" in model.model_fields
    bounds = _bounds(model)
    return {"name": model.title, "resting": _resting(model), "bounds": bounds, "aimed": aimed}


def _resting(model: type[BaseModel]) -> dict[str, Any]:
    fields = {
        name: f for name, f in model.model_fields.items() if not (f.is_required() or f.exclude)
    }
    dumped = model.model_construct().model_dump(mode="json", include=set(fields))
    return dict(dumped)


def _bounds(model: type[BaseModel]) -> dict[str, list[float]]:
    properties = model.model_json_schema()["properties"]
    return {
        name: [p["minimum"], p["maximum"]]
        for name, p in properties.items()
        if "minimum" in p and "maximum" in p
    }
