"""Errors that a person or a caller can act on. All are ValueErrors with a one-line message."""


class NubilisError(ValueError):
    """Base of every error that the core raises on purpose."""


class ShapeError(NubilisError):
    """An array has the wrong shape or type."""

    def __init__(self, name: str, expected: str, actual: object) -> None:
        super().__init__(f"{name}: expected {expected}, got {actual}")


class PhotoError(NubilisError):
    """A picture file cannot be read or written."""


class RecipeError(NubilisError):
    """A recipe is not valid, or newer than this program."""


class PlaceError(NubilisError):
    """A coordinate lies outside the photo."""


class ColourError(NubilisError):
    """A typed colour lies outside its space."""


class LibraryError(NubilisError):
    """A file of reference colours that cannot be used."""


class ChoiceError(NubilisError):
    """An answer that the finder did not offer."""


class TableError(NubilisError):
    """A table of colours that cannot be used."""


class PatternError(NubilisError):
    """A pattern of file names that cannot be used."""
