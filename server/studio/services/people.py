"""The people in a photo: looked for once, and kept with it."""

import hashlib

from nubilis.people.nets import MODEL
from nubilis.people.people import People, look_for_people, people_of
from shoots.models import Photo
from studio.engines import engines
from studio.models import KeptPeople

# Another way of finding people looks anew; masks that were made keep what they were made of.
STATE = hashlib.sha256(MODEL.encode()).hexdigest()


def people_in(photo: Photo) -> People:
    """Raises ModelsMissing when the networks are not there."""
    if kept := KeptPeople.of(photo, STATE):
        return people_of(bytes(kept.data))
    found = look_for_people(engines.get(photo).sight())
    KeptPeople.keep(photo, STATE, data=found.to_bytes())
    return found
