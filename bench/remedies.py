"""What the remedies keep and what they leave: recolouring surfaces of the scenes, calming made noise."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from bench.scenes import ROOT, Scene
from nubilis.arrays import Codes, Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.mask.combine import Mask
from nubilis.mask.picture import Picture
from nubilis.photo.grey import grey_png
from nubilis.photo.picture import Photo
from nubilis.photo.sampling import decode
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.calm import Calm
from nubilis.remedy.kinds import AnyRemedy
from nubilis.remedy.oklab_planes import planes_of
from nubilis.remedy.recolour import Recolour

# Saturated, patterned, dark, and with glints.
SURFACES = (
    ("d7-clean-colourful", "red-curtain"),
    ("d7-clean-colourful", "cloth-d6456f-dots"),
    ("d7-clean-colourful", "cloth-7a3f8f-diamonds"),
    ("d7-clean-colourful", "cloth-2f6fb0-stripes"),
    ("d7-clean-colourful", "hair-14100e"),
    ("d7-clean-colourful", "boots"),
    ("d1-curtain-spill", "gold-ball"),
    ("d6-gel", "drum-red"),
)
TARGETS = {"teal": (0.04, 0.13, 0.16), "ochre": (0.35, 0.2, 0.04)}  # linear Rec. 2020
PALE, BRIGHT = 12.0, 75.0  # CIELAB: what counts as a glint
COLOURED = 4.0  # chroma from which on a hue means something
NOISE = (2.0, 4.0, 8.0)  # code values, standard deviation
QUIET = 0.4  # of it, around


@dataclass(frozen=True)
class Recoloured:
    """hue: correlation of the new hue's direction with the old one's, the largest; detail: of L*; glints:
    most by which a glint's chroma rose, 99th percentile, None without any."""

    surface: str
    hue: float
    detail: float
    glints: float | None


def treated(photo: Photo, mask: npt.NDArray[np.bool_], remedy: AnyRemedy) -> Codes:
    """The photo delivered with one remedy under a mask (h, w)."""
    assets = Bundle()
    part = Picture(id="m", asset=assets.keep(grey_png(mask.astype(np.uint8) * np.uint8(255))))
    cast = Cast(id="c", mask=Mask(parts=(part,)), remedies=(remedy,))
    return Engine(photo, assets=assets).deliver(Recipe(casts=(cast,))).codes


def surface(scene: Scene, name: str) -> npt.NDArray[np.bool_]:
    labels = cv2.imread(str(ROOT / "bench/scenes" / scene.name / "labels.png"), 0)
    number = next(int(i) for i, one in scene.facts["labels"].items() if one["name"] == name)
    assert labels is not None
    return np.asarray(labels == number)


def recoloured(scene: Scene, name: str, target: str) -> Recoloured:
    inside = surface(scene, name)
    remedy = Recolour(id="r", target=TARGETS[target])
    codes = treated(scene.photo, inside, remedy)
    profile = scene.photo.profile
    old, new = (lab_planes(decode(c, profile))[:, inside] for c in (scene.photo.codes, codes))
    chromas = [np.hypot(v[1], v[2]) for v in (old, new)]
    meant = (chromas[0] > COLOURED) & (chromas[1] > COLOURED)
    # In OKLab, whose hues are straight: one that bends with lightness would seem to follow the old.
    ways = []
    for c in (scene.photo.codes, codes):
        plane = planes_of(decode(c, profile))[1:, inside][:, meant]
        ways.append(plane / np.maximum(np.hypot(*plane), 1e-6))
    glint = (chromas[0] < PALE) & (old[0] > BRIGHT)
    raised = float(np.percentile((chromas[1] - chromas[0])[glint], 99)) if glint.any() else None
    return Recoloured(
        f"{name} -> {target}",
        max(abs(_correlation(a, b)) for a in ways[0] for b in ways[1]),
        _correlation(old[0], new[0]),
        raised,
    )


def _correlation(a: Floats, b: Floats) -> float:
    return float(np.corrcoef(a, b)[0, 1]) if a.size and a.std() > 0.0 and b.std() > 0.0 else 0.0


def all_recoloured() -> Iterator[Recoloured]:
    for scene, name in SURFACES:
        for target in TARGETS:
            yield recoloured(Scene(scene), name, target)


@dataclass(frozen=True)
class Calmed:
    """Of noise of so many code values: before, after: grain inside over that around; edge: width of an edge
    after over that before; error: mean CIEDE2000 to the noiseless photo, before, and then wholly calmed, by
    a median and by non-local means, each mixed with the photo until the same noise is left; alone: the noise
    that is left (code values) and the error unmixed, wholly calmed, and the least of each that any strength
    of a median and of non-local means comes to."""

    sigma: float
    before: float
    after: float
    edge: float
    error: tuple[float, float, float, float]
    alone: tuple[tuple[float, float], tuple[float, float], tuple[float, float]]


def noisy(scene: Scene, sigma: float, seed: int = 1) -> tuple[Photo, npt.NDArray[np.bool_]]:
    """The scene without its taint, with noise: all of it inside an oval (h, w), QUIET of it around."""
    clean = scene.truth.codes.astype(np.float64)
    h, w = clean.shape[:2]
    ys, xs = np.mgrid[:h, :w]
    inside = np.hypot((xs - 0.45 * w) / (0.3 * w), (ys - 0.45 * h) / (0.4 * h)) < 1.0
    size = np.where(inside, sigma, QUIET * sigma)[..., None]
    noise = np.random.default_rng(seed).standard_normal(clean.shape) * size
    codes = np.clip(np.rint(clean + noise), 0, 255).astype(np.uint8)
    return Photo(codes, scene.photo.profile), np.asarray(inside)


def calmed(scene: Scene, sigma: float) -> Calmed:
    photo, inside = noisy(scene, sigma)
    clean = scene.truth.codes
    codes = treated(photo, inside, Calm(id="n"))
    well = cv2.erode(inside.astype(np.uint8), np.ones((9, 9), np.uint8)) > 0
    smooth = _smooth(clean)
    # The scene has a grain of its own, which counts: what is to be alike is what one sees.
    flat = cv2.GaussianBlur(clean, (0, 0), 2.0)
    grain = {
        name: _noise(c, flat, well & smooth) / _noise(c, flat, ~inside & smooth)
        for name, c in (("before", photo.codes), ("after", codes))
    }
    whole = treated(photo, inside, Calm(id="n", colour=2.0, lightness=2.0))
    smoothed = whole, cv2.medianBlur(photo.codes, 5), _non_local(photo.codes, sigma)
    left = max(_noise(s, clean, well & smooth) for s in smoothed)
    at_level = [_mixed_to(photo.codes, s, clean, well & smooth, left) for s in smoothed]
    errors = [_error(c, clean, well) for c in (photo.codes, *at_level)]

    def best(tried: Iterable[Codes]) -> tuple[float, float]:
        found = [(_noise(c, clean, well & smooth), _error(c, clean, well)) for c in tried]
        return min(noise for noise, _ in found), min(error for _, error in found)

    medians = (cv2.medianBlur(photo.codes, size) for size in (3, 5, 7, 9))
    non_locals = (_non_local(photo.codes, share * sigma) for share in (0.5, 0.75, 1.0, 1.5, 2.0))
    return Calmed(
        sigma,
        grain["before"],
        grain["after"],
        _edge(codes, clean, well) / _edge(photo.codes, clean, well),
        (errors[0], errors[1], errors[2], errors[3]),
        (best([whole]), best(medians), best(non_locals)),
    )


def _non_local(codes: Codes, sigma: float) -> Codes:
    """Non-local means of a general library, at the strength that its authors advise."""
    return np.asarray(cv2.fastNlMeansDenoisingColored(codes, None, sigma, sigma, 7, 21))


def _smooth(clean: Codes) -> npt.NDArray[np.bool_]:
    """Where the noiseless photo has next to no detail of its own."""
    grey = clean.mean(axis=2).astype(np.float32)
    mean = cv2.blur(grey, (7, 7))
    return np.asarray(cv2.blur(grey * grey, (7, 7)) - mean * mean < 4.0)


def _noise(codes: Codes, clean: Codes, where: npt.NDArray[np.bool_]) -> float:
    return float((codes.astype(np.float64) - clean)[where].std())


def _mixed_to(
    noisy: Codes, smooth: Codes, clean: Codes, where: npt.NDArray[np.bool_], left: float
) -> Codes:
    """As much of a smoothed photo over the noisy one that so much noise is left; all of it, where more is."""
    low, high = 0.0, 1.0
    mixed = smooth.astype(np.float64)
    for _ in range(12):
        share = (low + high) / 2
        mixed = noisy + share * (smooth.astype(np.float64) - noisy)
        low, high = (share, high) if float((mixed - clean)[where].std()) > left else (low, share)
    return np.asarray(np.clip(np.rint(mixed), 0, 255), dtype=np.uint8)


def _error(codes: Codes, clean: Codes, where: npt.NDArray[np.bool_]) -> float:
    one, two = (lab_planes(decode(c, srgb())) for c in (codes, clean))
    return float(difference_plane(one, two)[where].mean())


def _edge(codes: Codes, clean: Codes, where: npt.NDArray[np.bool_]) -> float:
    """How wide edges are: over the noiseless photo's strongest ones, what is crossed per slope."""
    grey, true = (c.mean(axis=2).astype(np.float32) for c in (codes, clean))
    gx, gy = cv2.Sobel(true, -1, 1, 0), cv2.Sobel(true, -1, 0, 1)
    size = np.hypot(gx, gy)
    strong = where & (size > np.percentile(size[where], 98))
    along = (cv2.Sobel(grey, -1, 1, 0) * gx + cv2.Sobel(grey, -1, 0, 1) * gy) / np.maximum(
        size, 1e-6
    )
    return float(size[strong].mean() / along[strong].mean())


def report() -> list[str]:
    lines = [
        "| surface | hue, correlation | L*, correlation | glints' chroma raised |",
        "|---|---|---|---|",
    ]
    for r in all_recoloured():
        glints = "none" if r.glints is None else f"{r.glints:.1f}"
        lines.append(f"| {r.surface} | {r.hue:.3f} | {r.detail:.4f} | {glints} |")
    lines += [
        "",
        "| noise | inside / around | calmed | edges wider | ΔE noisy | calmed | median | non-local means "
        "| alone: left, ΔE | median's least | non-local means' least |",
        "|---|---|---|---|---|---|---|---|---|---|---|",
    ]
    for name in ("d2-bench-mixed", "d7-clean-colourful"):
        for sigma in NOISE:
            c = calmed(Scene(name), sigma)
            errors = "".join(f"| {e:.2f} " for e in c.error)
            errors += "".join(f"| {noise:.2f}, {error:.2f} " for noise, error in c.alone)
            lines.append(
                f"| {name}, {sigma:.0f} | {c.before:.2f} | {c.after:.2f} | {c.edge - 1.0:+.3f} {errors}|"
            )
    return lines
