"""Headers that claim more pixels than any file of that size could hold."""

from nubilis.errors import PhotoError

# Bytes that one byte of a PNG can become (RFC 1951: a match of 258 takes two bits).
DEFLATED = 1032
# A block of a JPEG takes a bit at least, in the scan of its mean (ITU-T T.81, G.1.2): six bits for 256 pixels
# with colours at half the size; and thrice as many to be sure.
PIXELS_OF_JPEG = 1000
BITS = {"RGB": 24, "RGBA": 32, "LA": 16, "I;16": 16, "I": 16}


def check_claim(size: tuple[int, int], file_format: str, mode: str, file_bytes: int) -> None:
    """size: (width, height) that the header says; mode: as Pillow calls it; file_bytes: of the whole file.
    Raises PhotoError."""
    if file_format == "PNG":
        most = DEFLATED * 8 // BITS.get(mode, 1)
    elif file_format == "JPEG":
        most = PIXELS_OF_JPEG
    else:
        return
    if size[0] * size[1] > most * file_bytes:
        raise PhotoError(
            f"the header claims {size[0]} x {size[1]} pixels, which {file_bytes} bytes cannot hold: the "
            f"{file_format} file is damaged or incomplete"
        )
