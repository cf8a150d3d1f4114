"""A shoot of 500 photos of 24 MP, through a running ./nubilis demo:

.venv/bin/python -m bench.sheet http://127.0.0.1:8642/ [COUNT]

The photos are added to a shoot of their own, which stays; photos that are there already are not added again.
"""

import statistics
import sys
import tempfile
import time
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from bench.served import Served, ms
from bench.workload import large_photo, three_casts, with_amount
from nubilis.photo.write import write_photo

NAME = "Five hundred"
# Longest and usual time between two frames while the sheet is scrolled from end to end, and how often a
# place that was shown had no picture yet.
SCROLL = """async () => {
  const view = document.querySelector('[aria-label=Photos]');
  const gaps = [];
  let last = performance.now(), bare = 0, seen = 0;
  for (let i = 0; i < 240; i++) {
    view.scrollTop = (view.scrollHeight - view.clientHeight) * i / 239;
    await new Promise(requestAnimationFrame);
    const now = performance.now();
    gaps.push(now - last);
    last = now;
    const box = view.getBoundingClientRect();
    for (const image of view.querySelectorAll('article img')) {
      const at = image.getBoundingClientRect();
      if (at.bottom < box.top || at.top > box.bottom) continue;
      seen += 1;
      if (!image.complete) bare += 1;
    }
  }
  gaps.sort((a, b) => a - b);
  return { most: gaps.at(-1), usual: gaps[gaps.length >> 1], bare: bare / seen };
}"""
SHOWN = """() => { const images = [...document.querySelectorAll('article img')];
  return images.length > 5 && images.slice(0, 8).every((i) => i.complete && i.naturalWidth); }"""


def made(served: Served, count: int) -> int:
    """The shoot, with so many photos."""
    listed = served.send("GET", "/shoots").json()
    there = next((s for s in listed if s["name"] == NAME), None)
    shoot = there or served.send("POST", "/shoots", data={"name": NAME}).json()
    served.shoot = int(shoot["id"])
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.jpg"
        write_photo(path, large_photo(6000, 4000), "jpeg")
        data = path.read_bytes()
    for i in range(int(shoot["photos"]), count):
        comment = f"shot {i:05d}".encode()
        marker = b"\xff\xfe" + (len(comment) + 2).to_bytes(2, "big") + comment
        file = Path(f"shot {i:05d}.jpg")
        upload = {
            "name": file.name,
            "mimeType": "image/jpeg",
            "buffer": data[:2] + marker + data[2:],
        }
        served.send("POST", f"/shoots/{served.shoot}/photos", multipart={"file": upload})
    return served.shoot


def opened(page: Page, address: str) -> float:
    """Milliseconds until the first rows are there with their pictures."""

    def open_it() -> None:
        page.goto(address)
        page.wait_for_function(SHOWN)

    return ms(open_it)


def beside_a_look(served: Served, photo: int) -> tuple[float, float]:
    """A picture of one photo after an amount moved, median ms: alone, and while all others are looked at."""
    recipe = three_casts(large_photo(6000, 4000))
    path = f"/photos/{photo}/picture"

    def picture(i: int) -> float:
        body = {
            "recipe": with_amount(recipe, 0.5 + i / 200).model_dump(mode="json"),
            "size": [1500, 1000],
            "region": [0, 0, 1500, 1000],
            "draft": True,
        }
        return ms(lambda: served.send("POST", path, data=body))

    picture(0)
    alone = statistics.median(picture(i) for i in range(1, 25))
    job = served.send("POST", f"/shoots/{served.shoot}/look", data={}).json()
    time.sleep(3.0)
    meanwhile = statistics.median(picture(i) for i in range(30, 60))
    done = served.send("GET", f"/jobs/{job['id']}").json()["done"]
    served.send("DELETE", f"/jobs/{job['id']}")
    print(f"looked at {done} photos meanwhile", file=sys.stderr)
    return alone, meanwhile


def main(address: str, count: int) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"]
        )
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        served = Served(page, address)
        started = time.perf_counter()
        shoot = made(served, count)
        added = time.perf_counter() - started
        sheet = f"{served.address}/shoots/{shoot}"
        first, again = opened(page, sheet), opened(page, sheet)
        scrolled = page.evaluate(SCROLL)
        photos = served.send("GET", f"/shoots/{shoot}").json()["photos"]
        alone, meanwhile = beside_a_look(served, photos[0]["id"])
        print(f"| {count} photos of 24 MP | | asked |\n|---|---|---|")
        print(f"| added, s | {added:.0f} | |")
        print(
            f"| sheet opened with its first pictures, ms | {first:.0f}, again {again:.0f} | 1000 |"
        )
        print(
            f"| scrolled from end to end in 240 frames: longest, usual, ms | {scrolled['most']:.0f}, "
            f"{scrolled['usual']:.0f} | 100 |"
        )
        print(f"| places shown before their picture | {scrolled['bare']:.1%} | |")
        print(
            f"| picture after an amount moved, median, ms: alone, while all are looked at "
            f"| {alone:.0f}, {meanwhile:.0f} | |"
        )
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1], int(sys.argv[2]) if len(sys.argv) > 2 else 500)
