"""What one waits for beyond pixels, through a running ./nubilis demo:

.venv/bin/python -m bench.served http://127.0.0.1:8642/

A 24 MP photo is added to the demo shoot and taken out again.
"""

import json
import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright

from bench.workload import large_photo, three_casts, with_amount
from nubilis.photo.write import write_photo
from nubilis.recipe.document import Recipe

# Frames from a key's going down to the other picture's being on the canvas.
FRAMES = """async (press) => {
  const canvas = document.querySelector('[role=application] canvas');
  const { width, height } = canvas;
  const read = () => canvas.getContext('2d').getImageData(width / 3, height / 2, 40, 40).data.join();
  const was = read();
  document.body.dispatchEvent(new KeyboardEvent(press, { key: 'u', bubbles: true }));
  for (let frame = 1; frame < 60; frame++) {
    await new Promise(requestAnimationFrame);
    if (read() !== was) return frame;
  }
  return null;
}"""

# Milliseconds from the Enter of a typed amount to the proof's first line being another.
PROVED = """async () => {
  const line = () => document.querySelector('[data-testid=proof] tr').innerText;
  const was = line();
  const started = performance.now();
  const enter = { key: 'Enter', bubbles: true };
  document.activeElement.dispatchEvent(new KeyboardEvent('keydown', enter));
  while (line() === was) await new Promise(requestAnimationFrame);
  return performance.now() - started;
}"""


class Served:
    """Signed in to the demo, with its shoot open."""

    def __init__(self, page: Page, address: str) -> None:
        self.page, self.address = page, address.rstrip("/")
        page.goto(self.address)
        page.get_by_role("button", name="Open the demo shoot").click()
        page.get_by_role("article").first.wait_for()
        self.shoot = int(page.url.rsplit("/", 1)[1])

    def send(self, method: str, path: str, **more: Any) -> Any:
        (cookie,) = (c for c in self.page.context.cookies() if c["name"] == "csrftoken")
        headers = {"X-CSRFToken": cookie["value"], "Referer": self.address + "/"}
        answer = self.page.request.fetch(
            f"{self.address}/api{path}", method=method, headers=headers, timeout=120_000, **more
        )
        if not answer.ok:
            raise SystemExit(f"{path}: {answer.status} {answer.text()[:200]}")
        return answer

    def add(self, file: Path) -> int:
        upload = {"name": file.name, "mimeType": "image/jpeg", "buffer": file.read_bytes()}
        added = self.send("POST", f"/shoots/{self.shoot}/photos", multipart={"file": upload})
        return int(added.json()["photo"]["id"])


def ms(work: Callable[[], object]) -> float:
    started = time.perf_counter()
    work()
    return 1000.0 * (time.perf_counter() - started)


def figures(served: Served, photo: int, recipe: Recipe) -> list[tuple[str, str, str]]:
    """Name, value, budget."""
    path = f"/photos/{photo}"

    def body(amount: float) -> dict[str, Any]:
        return {"recipe": with_amount(recipe, amount).model_dump(mode="json")}

    served.send("POST", f"{path}/proof", data=body(0.5))
    proofs = [
        ms(lambda i=i: served.send("POST", f"{path}/proof", data=body(0.6 + i / 50)))
        for i in range(9)
    ]
    fields = [
        ms(lambda i=i: served.send("POST", f"{path}/field", data=body(0.6 + i / 70)))
        for i in range(3)
    ]
    saved = {"revision": 0, "recipe": recipe.model_dump(mode="json")}
    served.send("PUT", f"{path}/recipe", data=saved)
    sheets = [
        (form, ms(lambda form=form: served.send("GET", f"{path}/report.{form}")))
        for form in ("html", "pdf", "json")
    ]
    first = ("sheet as a page, made for the first time", f"{sheets[0][1]:.0f} ms", "2000")
    return [
        ("proof after an amount moved, median", f"{statistics.median(proofs):.0f} ms", "300"),
        ("the slowest of nine", f"{max(proofs):.0f} ms", ""),
        ("finder's field, before and now", f"{statistics.median(fields):.0f} ms", ""),
        first,
        *((f"then as {form.upper()}", f"{took:.0f} ms", "2000") for form, took in sheets[1:]),
    ]


PLACES = ((0.3, 0.35), (0.28, 0.5), (0.16, 0.34), (0.35, 0.3), (0.25, 0.6))


def adopted(served: Served, photo: int) -> list[tuple[str, str, str]]:
    """A photo with five adopted findings, each a mask picture; its last amount moved."""
    path = f"/photos/{photo}"
    recipe = Recipe().model_dump(mode="json")
    for number, at in enumerate(PLACES):
        asked = {"recipe": recipe, "said": {"places": [at]}}
        lines = served.send("POST", f"{path}/look", data=asked).text().strip().splitlines()
        (found, *_) = json.loads(lines[-1])["survey"]["findings"]
        cast = served.send("POST", f"{path}/findings/{found['id']}/adopt", data={}).json()
        recipe["casts"].append(cast | {"id": f"cast-{number}"})
    view = {"size": [1500, 1000], "region": [0, 0, 1500, 1000], "draft": True}

    def picture(amount: float) -> float:
        recipe["casts"][-1]["remedies"][0]["amount"] = amount
        return ms(lambda: served.send("POST", f"{path}/picture", data={"recipe": recipe} | view))

    def measured(x: float) -> float:
        body = {"at": [x, 0.3], "recipe": recipe}
        return ms(lambda: served.send("POST", f"{path}/measure", data=body))

    picture(0.3)
    pictures = statistics.median(picture(0.3 + i / 100) for i in range(1, 36))
    places = statistics.median(measured(0.3 + i / 1000) for i in range(25))
    size = len(json.dumps(recipe)) / 1000
    return [
        ("five adopted findings: the recipe", f"{size:.0f} kB", ""),
        ("five adopted findings: picture after an amount moved", f"{pictures:.0f} ms", ""),
        ("five adopted findings: a place measured", f"{places:.0f} ms", ""),
    ]


def switched(served: Served, photo: int) -> list[tuple[str, str, str]]:
    page = served.page
    page.goto(f"{served.address}/photos/{photo}")
    page.get_by_role("application").wait_for()
    page.wait_for_timeout(4000)
    frames = []
    for _ in range(5):
        for press in ("keydown", "keyup"):
            frames.append(page.evaluate(FRAMES, press))
            page.wait_for_timeout(200)
    told = ", ".join(map(str, frames))
    return [("untouched held up and let go, frames until it shows", told, "1")]


def proved(served: Served) -> list[tuple[str, str, str]]:
    """With the photo open: an amount typed, until another distance stands in the proof."""
    page = served.page
    field = page.get_by_label("Amount, number")
    waits = []
    for amount in ("30", "60", "90", "50", "80"):
        field.fill(amount)
        waits.append(float(page.evaluate(PROVED)))
        page.wait_for_timeout(1500)
    told = f"{statistics.median(waits):.0f} ms, at most {max(waits):.0f}"
    return [("amount typed, until the proof says so in the browser", told, "300")]


def main(address: str) -> None:
    photo = large_photo(6000, 4000)
    recipe = three_casts(photo)
    with tempfile.TemporaryDirectory() as name, sync_playwright() as playwright:
        file = Path(name) / "large.jpg"
        write_photo(file, photo, "jpeg")
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell",
            args=["--no-sandbox", "--disable-gpu"],
        )
        served = Served(browser.new_page(viewport={"width": 1280, "height": 800}), address)
        added = served.add(file)
        try:
            rows = [*figures(served, added, recipe), *adopted(served, added)]
            rows += [*switched(served, added), *proved(served)]
        finally:
            served.page.goto(served.address)
            served.send("POST", f"/shoots/{served.shoot}/remove", data={"photos": [added]})
        browser.close()
    print("| 24 MP photo, three casts, over HTTP | | budget |\n|---|---|---|")
    print("\n".join(f"| {' | '.join(row)} |" for row in rows))


if __name__ == "__main__":
    main(sys.argv[1])
