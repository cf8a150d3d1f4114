"""A photo with a cast that is sampled, masked and neutralised, and the API beside the screen."""

from typing import Any

from walks.tests.browser import saved_recipe
from walks.tests.mask_bench import DOWN_THE_GLOW, MaskBenchCase

LIT = (366, 440)  # in the glow, under the brush


class TreatedCase(MaskBenchCase):
    painted = (DOWN_THE_GLOW,)

    def setUp(self) -> None:
        super().setUp()
        self.screen.wait_proved()

    def asked(self, what: str, **more: Any) -> dict[str, Any]:
        """What the API says of the recipe as it is saved."""
        (cookie,) = (c for c in self.page.context.cookies() if c["name"] == "csrftoken")
        answer = self.page.request.post(
            f"{self.live_server_url}/api/photos/{self.row.id}/{what}",
            data={"recipe": saved_recipe(self.row.id), **more},
            headers={"X-CSRFToken": cookie["value"], "Referer": self.live_server_url},
        )
        return dict(answer.json())
