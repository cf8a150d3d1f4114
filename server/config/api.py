"""The API: its routers, and how errors are told. Every error is {"detail": one line}."""

from django.http import Http404, HttpRequest, HttpResponse, RawPostDataException
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from pydantic import ValidationError as PydanticError

from accounts.api import router as accounts
from accounts.people_api import router as everybody
from batches.api import router as batches
from config.answers import refused
from config.database import Contradiction, Trouble, has_lost_its_row
from config.errors import Missing, Refused, one_line, told_of_disk
from config.schema import ModestParser
from config.turns import Overtaken
from config.who import with_own_password
from delivery.api import router as delivery
from jobs.api import router as jobs
from keys.api import router as keys
from looks.api import router as looks
from nubilis.errors import NubilisError
from nubilis.recipe.model import first_fault
from nubilis.wanted import Unwanted
from references.api import router as references
from shoots.api import router as shoots
from shoots.closing_api import router as closing
from studio.http.agreeing import router as agreeing
from studio.http.colours import router as colours
from studio.http.copies import router as copies
from studio.http.findings import router as findings
from studio.http.masks import router as masks
from studio.http.past import router as past
from studio.http.people import router as people
from studio.http.photo import router as studio
from studio.http.pictures import router as pictures
from studio.http.proofs import router as proofs
from studio.http.reports import router as reports
from studio.http.scopes import router as scopes
from studio.http.shaping import router as shaping
from tether.api import router as tether

api = NinjaAPI(
    title="Nubilis", version="1", auth=with_own_password, docs_url=None, parser=ModestParser()
)
api.add_router("", accounts)
api.add_router("", everybody)
api.add_router("", shoots)
api.add_router("", closing)
api.add_router("", studio)
api.add_router("", pictures)
api.add_router("", copies)
api.add_router("", agreeing)
api.add_router("", findings)
api.add_router("", masks)
api.add_router("", past)
api.add_router("", people)
api.add_router("", proofs)
api.add_router("", reports)
api.add_router("", scopes)
api.add_router("", shaping)
api.add_router("", colours)
api.add_router("", delivery)
api.add_router("", batches)
api.add_router("", jobs)
api.add_router("", references)
api.add_router("", keys)
api.add_router("", looks)
api.add_router("", tether)


def _tell(request: HttpRequest, text: str, status: int, **more: object) -> HttpResponse:
    return api.create_response(request, {"detail": one_line(text), **more}, status=status)


@api.exception_handler(Refused)
def _refused(request: HttpRequest, error: Refused) -> HttpResponse:
    return refused(error)


@api.exception_handler(Unwanted)
def _unwanted(request: HttpRequest, error: Unwanted) -> HttpResponse:
    return refused(Overtaken())


@api.exception_handler(NubilisError)
def _core_error(request: HttpRequest, error: NubilisError) -> HttpResponse:
    if told := told_of_disk(error):
        return _tell(request, told, 507)
    return _tell(request, str(error), 422)


@api.exception_handler(HttpError)
def _not_parsed(request: HttpRequest, error: HttpError) -> HttpResponse:
    told = error.__cause__ if isinstance(error.__cause__, NubilisError) else error
    return _tell(request, str(told), error.status_code)


@api.exception_handler(ValidationError)
def _invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    first = error.errors[0]
    place = ".".join(str(p) for p in first.get("loc", ()) if p not in ("body", "payload"))
    text = str(first.get("msg", "not valid")).removeprefix("Value error, ")
    return _tell(request, f"{place}: {text}" if place else text, 422)


@api.exception_handler(PydanticError)
def _not_valid(request: HttpRequest, error: PydanticError) -> HttpResponse:
    """What is made of an answer has bounds too: it was asked for with something that leads beyond them."""
    place, text = first_fault(error)
    return _tell(request, f"{place}: {text}" if place else text, 422)


@api.exception_handler(RawPostDataException)
def _form(request: HttpRequest, error: RawPostDataException) -> HttpResponse:
    """It was read as a form already, to see whose it is."""
    return _tell(request, "This takes JSON, not a form", 415)


@api.exception_handler(OverflowError)
def _too_large(request: HttpRequest, error: OverflowError) -> HttpResponse:
    return _tell(request, "A number is too large", 422)


@api.exception_handler(Http404)
def _missing(request: HttpRequest, error: Http404) -> HttpResponse:
    return _refused(request, Missing())


@api.exception_handler(Contradiction)
def _gone(request: HttpRequest, error: Exception) -> HttpResponse:
    if has_lost_its_row(error):
        return _refused(request, Missing())
    raise error


@api.exception_handler(AuthenticationError)
def _unknown(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    return _tell(request, "Please sign in", 401)


@api.exception_handler(OSError)
@api.exception_handler(Trouble)
def _disk(request: HttpRequest, error: Exception) -> HttpResponse:
    if told := told_of_disk(error):
        return _tell(request, told, 507)
    raise error
