"""Make the demo account and its shoot; what is there already stays as the person left it."""

from django.core.management.base import BaseCommand

from accounts.demo import DEMO_NAME
from accounts.models import User
from shoots.services.demo import make_demo


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args: object, **options: object) -> None:
        there = User.objects.filter(username=DEMO_NAME)
        if there.exists():
            there.update(
                is_active=True, is_superuser=True
            )  # serving without the demo had closed it
            return
        shoot = make_demo(is_superuser=True)
        self.stdout.write(f"Demo shoot made: {shoot.name}, {shoot.photos.count()} photos")
