"""What the API takes in: bodies that are not far too long, and models that end at their first fault."""

import ninja
from django.http import HttpRequest, RawPostDataException
from ninja.parser import Parser
from ninja.types import DictStrAny

from config.errors import Refused
from nubilis.recipe.modest import FailsFast, refuse_overlong


class Schema(FailsFast, ninja.Schema):
    """Of requests and answers."""


class ModestParser(Parser):
    """Raises RecipeError for a body that would take long to parse, Refused (415) for a form."""

    def parse_body(self, request: HttpRequest) -> DictStrAny:
        try:
            refuse_overlong(request.body)
        except RawPostDataException as error:  # it was read as a form, to see whose it is
            raise Refused("This takes JSON, not a form", 415) from error
        return super().parse_body(request)
