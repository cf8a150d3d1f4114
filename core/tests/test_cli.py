"""The command line's contract: what it writes, what it refuses, and how it says so."""

import contextlib
import io
import json
import tempfile
import unittest
from pathlib import Path

import numpy as np

from nubilis.cli.main import main
from nubilis.colour.standard import standard_like
from nubilis.look.cube import read_cube
from nubilis.photo.depth import at_depth
from nubilis.photo.read import read_photo
from nubilis.photo.write import write_photo
from nubilis.recipe.document import Recipe

from .pictures import file_of, wall_photo
from .test_series import SHAPE, WAY, moving, overlap, square


class CommandLine(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.photo = self.folder / "wall.png"
        write_photo(self.photo, wall_photo(), "png")

    def run_cli(self, *words: object) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = main([str(w) for w in words])
        return code, out.getvalue(), err.getvalue()

    def refused(self, reason: str, *words: object) -> None:
        code, out, err = self.run_cli(*words)
        self.assertEqual((code, out), (2, ""))
        self.assertEqual(err.count("\n"), 1)
        self.assertIn(reason, err)

    def fix(self, *more: object) -> tuple[int, str, str]:
        places = ("--tainted", "12,100", "--reference", "270,100")
        return self.run_cli("fix", self.photo, "--out", self.folder / "out.png", *places, *more)

    def test_fix_takes_the_cast_off(self) -> None:
        code, out, err = self.fix("--json", "-", "--recipe-out", self.folder / "recipe.json")
        self.assertEqual((code, err), (0, ""))
        figures = json.loads(out)
        self.assertLess(figures["casts"][0]["after"], 0.2 * figures["casts"][0]["before"])
        before = read_photo(self.photo).codes[:, :30].astype(int)
        after = read_photo(self.folder / "out.png").codes[:, :30].astype(int)
        self.assertLess(np.ptp(after.mean(axis=(0, 1))), 0.4 * np.ptp(before.mean(axis=(0, 1))))

    def test_fix_inside_a_mask_only(self) -> None:
        mask = np.zeros((200, 300), dtype=np.uint8)
        mask[50:150, :60] = 255
        (self.folder / "mask.png").write_bytes(file_of(mask, "PNG"))
        self.assertEqual(self.fix("--mask", self.folder / "mask.png")[0], 0)
        before, after = (read_photo(p).codes for p in (self.photo, self.folder / "out.png"))
        np.testing.assert_array_equal(after[mask == 0], before[mask == 0])
        self.assertTrue((after != before)[mask > 0].any())

    def test_fix_with_a_neutral_or_with_nothing_but_a_place(self) -> None:
        for places in (
            ("--neutral", "12,100"),
            ("--tainted", "12,100"),
            ("--tainted", "12,100", "--neutral", "270,100"),
        ):
            out = self.folder / "out.png"
            self.assertEqual(self.run_cli("fix", self.photo, "--out", out, *places)[0], 0)
            out.unlink()

    def test_amount_zero_changes_nothing(self) -> None:
        self.fix("--amount", "0")
        np.testing.assert_array_equal(
            read_photo(self.folder / "out.png").codes, read_photo(self.photo).codes
        )

    def test_apply_repeats_fix(self) -> None:
        self.fix("--recipe-out", self.folder / "recipe.json")
        for file_format, name in (
            ("png16", "wall.png"),
            ("tiff16", "wall.tif"),
            ("jpeg", "wall.jpg"),
        ):
            code, _, err = self.run_cli(
                "apply", self.folder / "recipe.json", self.photo,
                "--out-dir", self.folder / "done", "--format", file_format,
            )  # fmt: skip
            self.assertEqual((code, err), (0, ""))
            self.assertTrue((self.folder / "done" / name).is_file())
        done = read_photo(self.folder / "done/wall.tif")
        fixed = read_photo(self.folder / "out.png")
        self.assertEqual(done.bits, 16)
        # Sixteen bits are as fine as what was computed, and round to the eight.
        off = at_depth(done.codes, 8).astype(int) - fixed.codes
        self.assertLessEqual(int(np.abs(off).max()), 1)
        self.assertLess(float((off != 0).mean()), 0.02)

    def test_what_is_read_is_never_written_over(self) -> None:
        before = self.photo.read_bytes()
        places = ("--tainted", "12,100", "--reference", "270,100")
        self.refused("stays as it is", "fix", self.photo, "--out", self.photo, *places)
        link = self.folder / "other-name.png"
        link.symlink_to(self.photo)
        self.refused("stays as it is", "fix", self.photo, "--out", link, *places)
        out = self.folder / "out.png"
        self.refused(
            "stays as it is", "fix", self.photo, "--out", out, *places, "--recipe-out", self.photo
        )
        for more in ((), ("--overwrite",)):
            self.assertEqual(
                self.run_cli("apply", "-", self.photo, "--out-dir", self.folder, *more)[0], 0
            )
            self.assertEqual(self.photo.read_bytes(), before)
        self.assertEqual(
            [p.name for p in sorted(self.folder.glob("wall*"))],
            ["wall-2.png", "wall.png"],
        )

    def test_files_that_are_there_are_counted_past_unless_told(self) -> None:
        there = self.folder / "out"
        for more, names in (((), 1), ((), 2), (("--overwrite",), 2)):
            code = self.run_cli("apply", "-", self.photo, "--out-dir", there, *more)[0]
            self.assertEqual((code, len(list(there.iterdir()))), (0, names))

    def test_apply_in_other_formats_spaces_and_sizes(self) -> None:
        done = self.folder / "done"
        for words, name, size, profile in (
            (("--format", "avif", "--profile", "display-p3"), "wall.avif", 300, "Display P3"),
            (("--format", "jxl", "--long-edge", 150), "wall.jxl", 150, "sRGB"),
            (("--long-edge", 90, "--profile", "rec2020"), "wall.png", 90, "Rec. 2020"),
        ):
            code, _, err = self.run_cli("apply", "-", self.photo, "--out-dir", done, *words)
            self.assertEqual((code, err), (0, ""))
            photo = read_photo(done / name)
            self.assertEqual((photo.width, photo.profile.name), (size, profile))
        for wrong in ("3", "x", "-5", "1e9"):
            self.refused(
                "--long-edge", "apply", "-", self.photo, "--out-dir", done, "--long-edge", wrong
            )
        code, _, _ = self.run_cli("apply", "-", self.photo, "--out-dir", done / "wide", "--format",
                                  "jxl", "--profile", "rec2020")  # fmt: skip
        self.assertEqual(code, 0)
        self.assertEqual(standard_like(read_photo(done / "wide/wall.jxl").profile), "rec2020")

    def test_a_treatment_s_colours_as_a_table_and_as_the_look_of_another_photo(self) -> None:
        self.fix("--recipe-out", self.folder / "recipe.json")
        table, done = self.folder / "colours.cube", self.folder / "looked"
        code, out, err = self.run_cli(
            "table",
            self.folder / "recipe.json",
            self.photo,
            "--out",
            table,
            "--size",
            17,
            "--cast",
            "a",
        )
        self.assertEqual((code, err), (0, ""))
        self.assertRegex(out, r"largest \d+\.\d\d, mean \d\.\d{3} CIEDE2000")
        self.assertIn("not in the table: masks, amounts", out)
        self.assertEqual(read_cube(table.read_bytes()).size, 17)
        empty = self.folder / "empty.json"
        empty.write_text(Recipe().model_dump_json())
        code, _, err = self.run_cli(
            "apply", empty, self.photo, "--out-dir", done, "--look", table, "--format", "png"
        )
        self.assertEqual((code, err), (0, ""))
        moved = read_photo(done / "wall.png").codes.astype(int) - wall_photo().codes
        self.assertGreater(int(np.abs(moved).max()), 5)
        self.refused("no cast q", "table", self.folder / "recipe.json", self.photo,
                     "--out", table, "--cast", "q")  # fmt: skip
        broken = self.folder / "broken.cube"
        broken.write_text("LUT_3D_SIZE 2\n0 0 0\n")
        self.refused("asks for 8", "apply", empty, self.photo, "--out-dir", done, "--look", broken)

    def test_measure(self) -> None:
        self.fix()
        code, out, _ = self.run_cli("measure", self.photo, self.folder / "out.png")
        told = json.loads(out)
        self.assertEqual(code, 0)
        self.assertGreater(told["whole"]["mean"], 0.1)
        self.assertIsNone(told["inside"])

    def test_find_tells_what_the_contract_says(self) -> None:
        code, out, err = self.run_cli("find", self.photo, "--tainted", "12,100", "--json", "-")
        self.assertEqual((code, err), (0, ""))
        told = json.loads(out)
        self.assertEqual((told["width"], told["height"]), (300, 200))
        for finding in told["findings"]:
            self.assertEqual(
                set(finding),
                {"id", "cause", "confidence", "severity", "cast", "bbox", "area", "source",
                 "samples", "reason"},
            )  # fmt: skip
            x0, y0, x1, y1 = finding["bbox"]
            self.assertTrue(0 <= x0 < x1 <= 300 and 0 <= y0 < y1 <= 200)

    def test_find_writes_map_and_masks_of_the_photo_s_size(self) -> None:
        self.assertEqual(
            self.run_cli(
                "find", self.photo, "--tainted", "12,100", "--reference", "270,100",
                "--map", self.folder / "map.png", "--masks", self.folder / "masks",
                "--json", self.folder / "told.json",
            )[:2],
            (0, ""),
        )  # fmt: skip
        found = json.loads((self.folder / "told.json").read_text())["findings"]
        grey = read_photo(self.folder / "map.png")
        self.assertEqual((grey.width, grey.height), (300, 200))
        masks = sorted(p.stem for p in (self.folder / "masks").iterdir())
        self.assertEqual(masks, sorted(f["id"] for f in found))

    def test_auto_without_findings_delivers_the_photo_as_it_is(self) -> None:
        plain = self.folder / "plain.png"
        plain.write_bytes(file_of(np.full((40, 60, 3), 120, np.uint8), "PNG"))
        out = self.folder / "out.png"
        self.assertEqual(self.run_cli("fix", plain, "--auto", "--out", out)[0], 0)
        np.testing.assert_array_equal(read_photo(out).codes, read_photo(plain).codes)
        self.refused("its own masks", "fix", plain, "--auto", "--guard", "1,1", "--out", out)
        self.refused("--auto", "fix", plain, "--choice", "choice-1", "--out", out)
        self.refused("no 'choice-1'", "fix", plain, "--auto", "--choice", "choice-1", "--out", out)

    def test_find_asks_and_fix_takes_an_answer(self) -> None:
        root = Path(__file__).resolve().parents[2]
        photo, out = root / "demo/photos/d3-flash-tint.png", self.folder / "out.png"
        told = self.folder / "found.json"
        self.assertEqual(self.run_cli("find", photo, "--json", told)[0], 0)
        found = json.loads(told.read_text())
        self.assertGreaterEqual(len(found["choices"]), 2)
        known = {f["id"]: f.get("alternative", False) for f in found["findings"]}
        for choice in found["choices"]:
            self.assertLessEqual(set(choice["findings"]), set(known))
        self.assertIn(True, known.values())
        taken = found["choices"][-1]["id"]
        document = self.folder / "recipe.json"
        asked = "fix", photo, "--auto", "--choice", taken, "--out", out, "--recipe-out", document
        self.assertEqual(self.run_cli(*asked)[0], 0)
        casts = json.loads(document.read_text())["casts"]
        self.assertEqual([c["finding"] for c in casts], found["choices"][-1]["findings"])
        self.assertNotEqual(out.read_bytes(), photo.read_bytes())

    def series(self) -> list[Path]:
        """A warm square that moves before a grey wall."""
        paths = []
        for i, at in enumerate(WAY[:3]):
            paths.append(self.folder / f"frame-{i + 1}.png")
            write_photo(paths[-1], moving(at), "png")
        return paths

    def test_follow_writes_each_frame_s_recipe_and_masks(self) -> None:
        frames = self.series()
        x, y = WAY[0]
        (self.folder / "mask.png").write_bytes(
            file_of((square(WAY[0]) * 255).astype(np.uint8), "PNG")
        )
        inside, wall = f"{x + 40},{y + 45}", "250,180"
        recipe, out = self.folder / "recipe.json", self.folder / "followed"
        code, _, err = self.run_cli(
            "fix", frames[0], "--out", self.folder / "o.png", "--tainted", inside,
            "--reference", wall, "--mask", self.folder / "mask.png", "--recipe-out", recipe,
        )  # fmt: skip
        self.assertEqual((code, err), (0, ""))
        self.assertEqual(self.run_cli("follow", recipe, *frames, "--out-dir", out)[0], 0)
        told = json.loads((out / "follow.json").read_text())
        self.assertEqual([t["photo"] for t in told], [str(f) for f in frames])
        self.assertEqual({tuple(t) for t in told}, {("photo", "confidence", "check", "followed")})
        self.assertTrue(all(t["followed"] and not t["check"] for t in told))
        mask = read_photo(out / "frame-3-A.png").codes[..., 0]
        self.assertEqual(mask.shape, SHAPE)
        self.assertGreater(overlap(mask / np.float32(255.0), square(WAY[2])), 0.9)
        # Each recipe is whole: it carries its own mask.
        code, _, err = self.run_cli(
            "apply", out / "frame-3.json", frames[2], "--out-dir", self.folder / "applied"
        )
        self.assertEqual((code, err), (0, ""))
        before, after = (
            read_photo(p).codes for p in (frames[2], self.folder / "applied/frame-3.png")
        )
        np.testing.assert_array_equal(after[mask == 0], before[mask == 0])
        self.assertTrue((after != before).any())
        self.refused("same name", "follow", recipe, frames[0], frames[0], "--out-dir", out)

    def test_agree_tells_where_a_colour_is(self) -> None:
        frames = self.series()
        at = f"{WAY[1][0] + 40},{WAY[1][1] + 45}"
        code, out, err = self.run_cli("agree", *frames, self.photo, "--at", at, "--in", "2")
        self.assertEqual((code, err), (0, ""))
        told = json.loads(out)
        self.assertEqual([t["found"] for t in told], [True, True, True, False])
        self.assertEqual(told[1]["distance"], 0.0)
        for one, corner in zip(told[:3], WAY, strict=False):
            self.assertAlmostEqual(one["at"][0], corner[0] + 40, delta=4)
            self.assertEqual(len(one["lab"]), 3)
        self.assertIsNone(told[3]["at"])
        self.refused("no photo 9", "agree", *frames, "--at", at, "--in", "9")
        self.refused("outside", "agree", *frames, "--at", "9000,2")

    def test_refusals(self) -> None:
        out = self.folder / "out.png"
        small = self.folder / "small.png"
        small.write_bytes(file_of(np.zeros((5, 5), np.uint8), "PNG"))
        text = self.folder / "text.jpg"
        text.write_text("Dear diary")
        fix = ("fix", self.photo, "--out", out)
        self.refused("outside the photo", *fix, "--tainted", "300,10")
        self.refused("not X,Y", *fix, "--tainted", "ten,ten")
        self.refused("0..1.5", *fix, "--tainted", "1,1", "--amount", "2")
        self.refused("nothing to neutralise", *fix)
        self.refused("more references", *fix, "--reference", "1,1")
        self.refused("the mask is 5 x 5", *fix, "--tainted", "1,1", "--mask", small)
        self.refused("not a picture", "fix", text, "--out", out, "--tainted", "1,1")
        self.refused("ending", "fix", self.photo, "--out", "out.gif", "--tainted", "1,1")
        self.refused(
            "No such file", "fix", self.folder / "no.png", "--out", out, "--tainted", "1,1"
        )
        self.refused("cannot write", "fix", self.photo, "--out", self.folder / "no/out.png",
                     "--tainted", "1,1")  # fmt: skip
        self.refused("not valid JSON", "apply", text, self.photo, "--out-dir", self.folder / "done")
        self.refused("expected 300 x 200", "measure", self.photo, small)
        self.refused("required", "fix", self.photo)
        self.assertFalse(out.exists())
        self.assertFalse([p for p in self.folder.iterdir() if p.name.startswith(".")])
