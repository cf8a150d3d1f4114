"""What the API takes in: bodies that are not far too long, and models that end at their first fault."""

import ninja
from django.http import HttpRequest
from ninja.parser import Parser
from ninja.types import DictStrAny

from nubilis.recipe.modest import FailsFast, refuse_overlong


class Schema(FailsFast, ninja.Schema):
    """Of requests and answers."""


class ModestParser(Parser):
    """Raises RecipeError for a body that would take long to parse."""

    def parse_body(self, request: HttpRequest) -> DictStrAny:
        refuse_overlong(request.body)
        return super().parse_body(request)
