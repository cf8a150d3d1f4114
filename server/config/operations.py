"""What operations of the API say of themselves."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from typing import Any, TypeVar, overload

from django.http import HttpRequest
from django.urls import Resolver404, ResolverMatch, resolve

View = TypeVar("View", bound=Callable[..., Any])


@dataclass(frozen=True)
class Computing:
    """That it takes a core for a while, and so waits for a turn. large: longer than a picture does."""

    large: bool


@overload
def computes(view: View) -> View: ...
@overload
def computes(*, large: bool) -> Callable[[View], View]: ...
def computes(view: View | None = None, *, large: bool = False) -> View | Callable[[View], View]:
    """Declares so. What is stored, or only saved, does not."""

    def declared(view: View) -> View:
        view.computing = Computing(large)  # type: ignore[attr-defined]
        return view

    return declared if view is None else declared(view)


def computing_of(request: HttpRequest) -> tuple[Computing | None, ResolverMatch | None]:
    """What is declared of the operation that a request is for, and where it leads."""
    try:
        match = resolve(request.path_info)
    except Resolver404:
        return None, None
    return _declared().get((match.route, request.method or "")), match


@cache
def _declared() -> dict[tuple[str, str], Computing]:
    """By address, as Django writes it, and method."""
    from config.api import api  # whose routers import this

    return {
        (f"api{path.translate(_AS_DJANGO)}", method): operation.view_func.computing
        for _, router in api._routers
        for path, asked in router.path_operations.items()
        for operation in asked.operations
        if hasattr(operation.view_func, "computing")
        for method in operation.methods
    }


_AS_DJANGO = str.maketrans("{}", "<>")
