"""Make files at full size, and keep those that are still wanted."""

from collections.abc import Callable, Sequence
from contextlib import ExitStack
from datetime import timedelta
from pathlib import Path
from typing import Any

from django.db import transaction
from django.db.models.signals import post_delete
from django.dispatch import receiver
from django.utils import timezone

from accounts.models import User
from config.errors import Missing, Refused
from delivery.models import Delivery
from delivery.services.order import Order
from delivery.services.proof_files import proof_pieces
from delivery.services.to_folder import put_into_folder
from jobs.models import Job
from jobs.progress import Progress
from jobs.services.start import start, start_each
from nubilis.deliver.names import Said, free, named
from nubilis.deliver.pieces import Piece, pieces
from nubilis.engine.acting import acting_casts
from nubilis.recipe.differences import letters
from nubilis.recipe.document import Recipe
from shoots import files
from shoots.models import Photo, Shoot
from shoots.services.find import shared_with
from studio.engines import engines
from studio.services.save_recipe import current

KEPT = timedelta(days=1)
MAIN = 0.8  # share of the work that is the photo itself, when more goes beside it


def start_delivery(owner: User, photo: Photo, revision: int, order: Order) -> Job:
    """revision: the one that was looked at. Raises Refused (409) when the photo has moved on."""
    _recipe(photo, revision)
    arguments = {"revision": revision, "order": order.model_dump(mode="json")}
    return start(owner, "deliver", photo.shoot, photo, **arguments)


def start_delivering(owner: User, shoot: Shoot, photos: Sequence[Photo], order: Order) -> Job:
    """Each as it stands when its turn comes."""
    ids = [p.id for p in photos]
    return start_each(owner, "deliver-set", shoot, ids, order=order.model_dump(mode="json"))


def deliver(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "deliver": render, write and record. Raises Refused, NubilisError."""
    photo = job.photo
    if photo is None:
        raise Missing
    _forget_old()
    recipe = _recipe(photo, job.arguments["revision"])
    rows, told = _delivered(photo, recipe, Order(**job.arguments["order"]), 1, progress)
    return {"delivery": str(rows[0].id), "deliveries": [str(r.id) for r in rows], **told}


def deliver_one(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "deliver-set", of one of its photos."""
    photo = job.photo
    if photo is None:
        raise Missing
    if photo.removed:
        raise Refused("It is in the bin.", 409)
    order, number = Order(**job.arguments["order"]), job.place + 1
    rows, told = _delivered(photo, current(photo).recipe, order, number, progress)
    return {"deliveries": [str(r.id) for r in rows], **told}


def _delivered(
    photo: Photo, recipe: Recipe, order: Order, number: int, progress: Progress
) -> tuple[list[Delivery], dict[str, list[str]]]:
    """The rows of its files; what they have no place for, and the folder that they were put into, if any."""
    engine = engines.get(photo)
    todo = pieces(engine, recipe, order.wanted, order.beside) + proof_pieces(photo, order.proof)
    stem = named(order.names, said_of(photo, recipe, number))
    rows: list[Delivery] = []
    main = 1.0 if len(todo) == 1 else MAIN
    try:
        for i, piece in enumerate(todo):
            done = main + (1.0 - main) * (i - 1) / max(len(todo) - 1, 1)
            span = (0.0, main) if i == 0 else (done, done + (1.0 - main) / (len(todo) - 1))
            rows.append(_made(photo, stem, piece, _within(progress.tell, span)))
        progress.ask()
        told = _into_folder(photo, stem, rows) if order.folder else {}
        told["notes"] = list(dict.fromkeys(note for row in rows for note in row.notes))
        Photo.objects.filter(id=photo.id).update(delivered=photo.revision)
    except BaseException:
        for row in rows:
            row.delete()
        raise
    return rows, told


def _into_folder(photo: Photo, stem: str, rows: Sequence[Delivery]) -> dict[str, list[str]]:
    with ExitStack() as held:
        made = [(r.tail, held.enter_context(files.reading(r.stored_as))) for r in rows]
        return {"folder": [put_into_folder(photo.shoot, stem, made)]}


def _within(tell: Callable[[float], None], span: tuple[float, float]) -> Callable[[float], None]:
    return lambda share: tell(span[0] + (span[1] - span[0]) * share)


def _made(photo: Photo, stem: str, piece: Piece, tell: Callable[[float], None]) -> Delivery:
    row = Delivery(photo=photo, revision=photo.revision, stem=stem, tail=piece.tail)
    try:
        files.put(row.stored_as, lambda path: _write(row, piece, path, tell))
        row.save(force_insert=True)
    except BaseException:
        files.forget(row.stored_as)
        raise
    return row


def _write(row: Delivery, piece: Piece, path: Path, tell: Callable[[float], None]) -> None:
    written = piece.write(path, tell)
    row.unchanged, row.notes = written.unchanged, list(written.notes)
    row.size_bytes = path.stat().st_size


def said_of(photo: Photo, recipe: Recipe, number: int) -> Said:
    """What a name may tell of a photo. number: in the delivery, from 1."""
    known = letters(recipe.casts)
    return Said(
        name=Path(photo.file_name).stem,
        title=photo.title,
        shoot=photo.shoot.name,
        number=number,
        casts="".join(known[c.id] for c in acting_casts(recipe)),
        size=(photo.width, photo.height),
        taken=photo.shot,
    )


def files_of(job: Job, user: User) -> list[tuple[str, str]]:
    """What is still kept of a job's files, of photos that a person may see now: under which name, and under
    which name it is stored; names that clash are counted up."""
    ids = (job.result or {}).get("deliveries", [])
    seen = Delivery.objects.filter(shared_with(user, shoot="photo__shoot__"), id__in=ids)
    rows = {str(r.id): r for r in seen}
    of_photo: dict[int, list[Delivery]] = {}
    for row in (rows[i] for i in ids if i in rows):
        of_photo.setdefault(row.photo_id, []).append(row)
    found: list[tuple[str, str]] = []
    taken: set[str] = set()
    for own in of_photo.values():
        stem = free(own[0].stem, [r.tail for r in own], lambda name: name.lower() in taken)
        for row in own:
            if files.size(row.stored_as) is not None:
                taken.add((stem + row.tail).lower())
                found.append((stem + row.tail, row.stored_as))
    return found


def sweep_deliveries(older_than: float) -> None:
    """No file that is older than a time stamp without its row, and no row without its file."""
    known = {row.stored_as: row for row in Delivery.objects.all()}
    for name in files.listed("deliveries"):
        if known.pop(name, None) is None and files.is_older(name, older_than):
            files.forget(name)
    for row in known.values():
        if files.size(row.stored_as) is None:
            row.delete()
    _forget_old()


def _recipe(photo: Photo, revision: int) -> Recipe:
    state = current(photo)
    if state.revision != revision:
        raise Refused(
            "This photo was changed since; please look again", 409, revision=state.revision
        )
    return state.recipe


def _forget_old() -> None:
    Delivery.objects.filter(made__lt=timezone.now() - KEPT).delete()


@receiver(post_delete, sender=Delivery)
def _remove_file(instance: Delivery, **_: object) -> None:
    """The file goes with its row, also when the row goes with its photo."""
    name = instance.stored_as  # its id is gone when the time comes
    transaction.on_commit(lambda: files.forget(name))
