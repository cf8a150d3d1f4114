"""The proof sheet: the same figures in every form, and nothing that a title could break."""

import csv
import io
from typing import Any
from unittest.mock import patch

from django.conf import settings
from pypdf import PdfReader
from weasyprint.urls import URLFetcher

from config.tests.cases import ServerCase, glowing_wall, png_bytes, recipe_document
from shoots.models import Photo, Shoot
from studio.services.printing import printed


class Reports(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.one, self.bare = self.photo(seed=1), self.photo(seed=2)
        body = {"revision": 0, "recipe": recipe_document()}
        self.send("put", f"/photos/{self.one.id}/recipe", body)

    def get(self, path: str) -> Any:
        answer = self.client.get(f"/api/{path}")
        self.assertEqual(answer.status_code, 200, answer.content[:200])
        return answer

    def test_every_form_has_the_proof_s_figures(self) -> None:
        proof = self.send(
            "post", f"/photos/{self.one.id}/proof", {"recipe": recipe_document()}
        ).json()["proof"]
        cast = proof["casts"][0]
        told = self.get(f"photos/{self.one.id}/report.json").json()
        (photo,) = told["photos"]
        self.assertEqual(photo["proof"]["casts"][0]["after"], cast["after"])
        self.assertEqual(photo["proof"]["outside"]["mean"], 0.0)
        figures = {f["name"]: f for f in photo["figures"]["casts"][cast["id"]]}
        self.assertEqual(figures["Distance to reference"]["now"], cast["after"])
        self.assertEqual(photo["field"], self.told_field())
        rows = list(
            csv.DictReader(
                io.StringIO(self.get(f"photos/{self.one.id}/report.csv").content.decode())
            )
        )
        row = next(r for r in rows if r["figure"] == "Distance to reference")
        self.assertEqual((row["cast"], row["unit"]), ("A", "ΔE2000"))
        for value, wanted in ((row["before"], cast["before"]), (row["now"], cast["after"])):
            self.assertAlmostEqual(float(value), wanted, delta=0.005 * wanted + 1e-3)
        page = self.get(f"photos/{self.one.id}/report.html").content.decode()
        self.assertIn(f"{cast['after']:.2f}", page)
        self.assertEqual(page.count("data:image/jpeg;base64,"), 6)
        self.assertNotIn("<script", page)

    def test_a_report_fetches_nothing(self) -> None:
        """Whatever a page might come to name."""
        secret = self.folder / "secret.png"
        secret.write_bytes(png_bytes(glowing_wall()))
        asked = (
            "http://192.0.2.7/a.png",
            secret.as_uri(),
            f"{settings.WEB_DIST.as_uri()}/assets/../x",
        )
        with patch.object(URLFetcher, "fetch", autospec=True) as fetch:
            as_page = "".join(f'<img src="{address}">' for address in asked)
            printed(as_page)
            for address in (one.args[1] for one in fetch.call_args_list):
                self.assertIn("/assets/", address)
                self.assertNotIn("..", address)

    def test_a_sample_outside_the_photo_is_refused_when_it_is_saved(self) -> None:
        """It would keep the whole shoot from having a report."""
        recipe = recipe_document()
        recipe["casts"][0]["pairs"][0]["tainted"]["at"] = [0.5, 0.95]  # of a photo of 3:2
        body = {"revision": 1, "recipe": recipe}
        answer = self.send("put", f"/photos/{self.one.id}/recipe", body)
        self.refused(answer, 422, "casts.0.pairs.0.tainted.at: the place lies outside the photo")
        recipe = recipe_document()
        recipe["casts"][0]["pairs"][0]["reference"]["further"] = [[1.0, 0.1]]
        body = {"revision": 1, "recipe": recipe}
        answer = self.send("put", f"/photos/{self.one.id}/recipe", body)
        self.refused(answer, 422, "casts.0.pairs.0.reference.at")
        told = self.get(f"shoots/{self.shoot.id}/report.json").json()
        self.assertEqual(len(told["photos"]), 1)

    def told_field(self) -> Any:
        body = {"recipe": recipe_document()}
        return self.send("post", f"/photos/{self.one.id}/field", body).json()

    def test_a_shoot_s_treated_photos(self) -> None:
        told = self.get(f"shoots/{self.shoot.id}/report.json").json()
        self.assertEqual(len(told["photos"]), 1)
        page = self.get(f"shoots/{self.shoot.id}/report.html").content.decode()
        self.assertIn("Proof: Rehearsal", page)

    def test_a_photo_without_casts(self) -> None:
        page = self.get(f"photos/{self.bare.id}/report.html").content.decode()
        self.assertIn("Nothing was treated.", page)
        (photo,) = self.get(f"photos/{self.bare.id}/report.json").json()["photos"]
        self.assertEqual(photo["proof"]["outside"]["share"], 1.0)

    def test_the_pdf_is_the_page_on_paper(self) -> None:
        pdf = self.get(f"photos/{self.one.id}/report.pdf").content
        self.assertTrue(pdf.startswith(b"%PDF-"))
        self.assertIn(b"%%EOF", pdf[-16:])
        self.assertGreater(pdf.count(b"/Subtype /Image"), 1)

    def pages(self, path: str) -> list[str]:
        """The words of each page."""
        pdf = self.get(path).content
        return [page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages]

    def test_a_shoot_s_pdf_is_put_together_from_its_photos(self) -> None:
        bare = Shoot.objects.create(owner=self.person, name="Not begun")
        empty = self.pages(f"shoots/{bare.id}/report.pdf")
        self.assertIn("No photo of this shoot was treated yet.", empty[0])
        body = {"revision": 0, "recipe": recipe_document()}
        self.send("put", f"/photos/{self.bare.id}/recipe", body)
        apart = [self.pages(f"photos/{p.id}/report.pdf") for p in (self.one, self.bare)]
        with patch("studio.services.printing.weasyprint.HTML") as never:
            whole = self.pages(f"shoots/{self.shoot.id}/report.pdf")
        never.assert_not_called()
        self.assertEqual(whole, [*apart[0], *apart[1]])
        for photo, pages in zip((self.one, self.bare), apart, strict=True):
            self.assertIn("Proof: Rehearsal", pages[0])
            self.assertIn(photo.title, pages[0])

    def test_what_is_printed_follows_the_words_on_it(self) -> None:
        self.pages(f"photos/{self.one.id}/report.pdf")
        Photo.objects.filter(id=self.one.id).update(title="Another name")
        self.assertIn("Another name", self.pages(f"photos/{self.one.id}/report.pdf")[0])

    def test_a_sheet_is_made_once_for_each_state(self) -> None:
        path = f"/shoots/{self.shoot.id}/sheets"
        missing = {"treated": 1, "missing": [{"id": self.one.id, "title": self.one.title}]}
        self.assertEqual(self.client.get(f"/api{path}").json(), missing)
        job = self.send("post", path, {}).json()
        self.assertEqual((job["state"], job["photos"]), ("done", [self.one.id]))
        self.assertEqual(self.client.get(f"/api{path}").json(), {"treated": 1, "missing": []})
        with patch("studio.services.sheet.prove_outcome") as never:
            self.get(f"shoots/{self.shoot.id}/report.html")
        never.assert_not_called()
        recipe = recipe_document()
        recipe["casts"][0]["remedies"][0]["amount"] = 0.5
        self.send("put", f"/photos/{self.one.id}/recipe", {"revision": 1, "recipe": recipe})
        self.assertEqual(self.client.get(f"/api{path}").json(), missing)

    def test_titles_are_only_text(self) -> None:
        Photo.objects.filter(id=self.one.id).update(title="=<b>bold</b>")
        page = self.get(f"photos/{self.one.id}/report.html").content.decode()
        self.assertNotIn("<b>bold", page)
        self.assertIn("'=", self.get(f"photos/{self.one.id}/report.csv").content.decode())

    def test_other_people_s_and_other_forms(self) -> None:
        self.assertEqual(self.client.get(f"/api/photos/{self.one.id}/report.xml").status_code, 422)
        self.client.force_login(self.other)
        for path in (f"photos/{self.one.id}", f"shoots/{self.shoot.id}"):
            self.assertEqual(self.client.get(f"/api/{path}/report.html").status_code, 404)
        self.assertEqual(self.send("post", f"/shoots/{self.shoot.id}/sheets", {}).status_code, 404)
