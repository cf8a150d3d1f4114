"""A recipe as the API tells it."""

from config.schema import Schema
from nubilis.recipe.document import Recipe
from studio.services.save_recipe import State


class RecipeState(Schema):
    revision: int
    recipe: Recipe
    can_undo: bool
    can_redo: bool


class StepIn(Schema):
    """revision: the one that the step is made from."""

    revision: int


def state_out(state: State) -> RecipeState:
    return RecipeState.model_validate(state, from_attributes=True)
