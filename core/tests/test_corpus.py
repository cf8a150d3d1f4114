"""What fuzzing found worth keeping is read again: taken, or refused in one line."""

import unittest

from fuzz.targets import CORPUS, TARGETS, tried


class Corpus(unittest.TestCase):
    def test_each_file(self) -> None:
        for name, target in TARGETS.items():
            kept = sorted((CORPUS / name).iterdir())
            self.assertGreater(len(kept), 0, name)
            for file in kept:
                with self.subTest(f"{name} {file.name}"):
                    tried(target, file.read_bytes())
