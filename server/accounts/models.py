"""Who uses Nubilis."""

from django.contrib.auth.models import AbstractUser


class User(AbstractUser):
    """A person with shoots of their own."""
