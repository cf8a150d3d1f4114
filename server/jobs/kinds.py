"""What kinds of work there are. Each is done by a function of the job and its progress alone."""

from collections.abc import Callable
from typing import Any

from batches.services.propose import treat
from delivery.services.deliver import deliver, deliver_one
from jobs.models import Job
from jobs.progress import Progress
from studio.services.agreeing import agree
from studio.services.copy_casts import copy
from studio.services.develop import develop
from studio.services.linked import carry_over_job
from studio.services.whole_shoot import look_at_one, prove_one
from tether.services.take_in import take_in

Work = Callable[[Job, Progress], dict[str, Any]]

KINDS: dict[str, Work] = {
    "agree": agree,
    "carry-over": carry_over_job,
    "copy": copy,
    "deliver": deliver,
    "develop": develop,
    "deliver-set": deliver_one,
    "look": look_at_one,
    "prove": prove_one,
    "take-in": take_in,
    "treat": treat,
}
# Minutes after which a piece of work of each photo is given up.
LONGEST = {"look": 30, "prove": 30}
USUAL_LONGEST = 180
