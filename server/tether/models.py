"""Shoots whose folder is watched."""

from django.db import models

from shoots.models import Photo, Shoot


class Watch(models.Model):
    """A shoot into which files are taken as they arrive in a folder of its own.

    folder: its name below the one for all; source: the photo whose saved treatment is laid on what arrives,
    None for none; exposures: how often the simulated camera was pressed.
    """

    shoot = models.OneToOneField(Shoot, models.CASCADE, related_name="watch")
    source = models.ForeignKey(Photo, models.SET_NULL, null=True, related_name="+")
    folder = models.CharField(max_length=500)
    exposures = models.IntegerField(default=0)

    def __str__(self) -> str:
        return f"the folder of {self.shoot}"
