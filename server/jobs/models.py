"""Long pieces of work."""

import uuid

from django.conf import settings
from django.db import models

from shoots.models import Photo, Shoot


class Job(models.Model):
    """One piece of long work: all that is needed to do it stands here, so that any process can.

    photo, shoot: what it works on; arguments: the rest of what it is asked; done, total: of the photos it
    goes through; share: of the whole, 0..1; troubles: what went wrong with single photos, which did not
    keep the others from it; error: why it failed; cancelled: that somebody asked it to stop; result: what
    came of it.
    titles: of its parts' photos, by their ids, since a photo may go for good before its turn.
    parent, place: work on several photos that do not need each other is a job for each of them, which
    anybody may do; the parent is over when they are.
    token, by: of whoever does it now, by: machine and process; seen: when that was last heard of; begun,
    attempts: when it was last taken on, and how often; not_before: when it may be tried again.
    """

    class State(models.TextChoices):
        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"
        INTERRUPTED = "interrupted"  # its process ended before it did

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="jobs")
    kind = models.CharField(max_length=16)
    photo = models.ForeignKey(Photo, models.CASCADE, null=True, related_name="jobs")
    shoot = models.ForeignKey(Shoot, models.CASCADE, related_name="jobs")
    parent = models.ForeignKey("self", models.CASCADE, null=True, related_name="parts")
    place = models.IntegerField(default=0)
    arguments = models.JSONField(default=dict)
    state = models.CharField(max_length=12, choices=State.choices, default=State.WAITING)
    done = models.IntegerField(default=0)
    total = models.IntegerField(default=1)
    share = models.FloatField(default=0.0)
    titles = models.JSONField(default=dict)
    troubles = models.JSONField(default=list)
    error = models.TextField(blank=True)
    cancelled = models.BooleanField(default=False)
    result = models.JSONField(null=True)
    made = models.DateTimeField(auto_now_add=True)
    ended = models.DateTimeField(null=True)
    token = models.UUIDField(null=True)
    by = models.CharField(max_length=80, blank=True)
    seen = models.DateTimeField(null=True)
    begun = models.DateTimeField(null=True)
    attempts = models.SmallIntegerField(default=0)
    not_before = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-made"]
        indexes = [
            models.Index(fields=["shoot", "kind", "made"], name="newest_of_a_kind"),
            models.Index(fields=["state", "owner"], name="to_be_done"),
        ]

    def __str__(self) -> str:
        return f"{self.kind} {self.id}"

    @property
    def over(self) -> bool:
        return self.state not in OPEN


OPEN = (Job.State.WAITING, Job.State.RUNNING)
