"""What kinds of work there are. Each is done by a function of the job and its progress alone."""

from collections.abc import Callable
from typing import Any

from delivery.services.deliver import deliver
from jobs.models import Job
from jobs.progress import Progress
from studio.services.whole_shoot import look_at_shoot, prove_shoot

Work = Callable[[Job, Progress], dict[str, Any]]

KINDS: dict[str, Work] = {"deliver": deliver, "look": look_at_shoot, "prove": prove_shoot}
