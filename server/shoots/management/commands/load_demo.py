"""Make the demo account and its shoots; what is there already stays as the person left it."""

from django.core.management.base import BaseCommand, CommandError

from accounts.demo import DEMO_NAME, DEMO_PASSWORD
from accounts.models import User
from shoots.services.demo import make_demo

NOT_HERE = "nubilis: other people have accounts here, and the demo lets anybody in; use serve"
REFUSED = 3  # the launcher knows it


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args: object, **options: object) -> None:
        there = list(User.objects.all())
        if any(u.username != DEMO_NAME or not u.check_password(DEMO_PASSWORD) for u in there):
            raise CommandError(NOT_HERE, returncode=REFUSED)
        if there:
            return
        shoot = make_demo()
        self.stdout.write(f"Demo shoot made: {shoot.name}, {shoot.photos.count()} photos")
