"""How much of what a file says of itself goes along: all, whose it is, nothing, all but the place.

Sources: Exif 2.32 (2019), section 4.6; XMP part 1 (2012), section 7; IPTC Photo Metadata 2023.1 for the names
of places.
"""

import struct
import xml.etree.ElementTree as ET
from collections.abc import Callable
from typing import Literal, get_args

from PIL import Image

from nubilis.photo.metadata import GPS_IFD, Metadata

About = Literal["all", "no-place", "copyright", "none"]
ABOUTS: tuple[About, ...] = get_args(About)
_ARTIST, _COPYRIGHT = 0x013B, 0x8298
_RDF = "http://www.w3.org/1999/02/22-rdf-syntax-ns#"
_RIGHTS = "http://ns.adobe.com/xap/1.0/rights/"
_DC = "http://purl.org/dc/elements/1.1/"
_OWNED = {f"{{{_DC}}}rights", f"{{{_DC}}}creator"}
_PLACES = {
    "Location", "City", "State", "Country", "CountryCode", "CountryName", "ProvinceState", "Sublocation",
    "WorldRegion", "LocationCreated", "LocationShown", "LocationName", "LocationId",
}  # fmt: skip


def told(metadata: Metadata, about: About) -> Metadata:
    """What is left of it. What cannot be understood is left out as soon as anything should be."""
    if about == "all":
        return metadata
    if about == "none":
        return Metadata()
    owned = about == "copyright"
    return Metadata(
        _exif(metadata.exif, owned), _xmp(metadata.xmp, _is_owned if owned else _no_place)
    )


def _exif(block: bytes | None, owned: bool) -> bytes | None:
    if block is None:
        return None
    exif = Image.Exif()
    try:
        exif.load(b"Exif\0\0" + block)
        if owned:
            left = Image.Exif()
            for tag in (_ARTIST, _COPYRIGHT):
                if tag in exif:
                    left[tag] = exif[tag]
        else:
            left = exif
            if GPS_IFD in left:
                del left[GPS_IFD]
        return left.tobytes().removeprefix(b"Exif\0\0") if dict(left) else None
    except (SyntaxError, ValueError, KeyError, TypeError, OSError, struct.error):
        return None


def _is_owned(name: str) -> bool:
    return name in _OWNED or name.startswith(f"{{{_RIGHTS}}}")


def _no_place(name: str) -> bool:
    local = name.rpartition("}")[2]
    return local not in _PLACES and not local.startswith("GPS")


def _xmp(packet: bytes | None, keeps: Callable[[str], bool]) -> bytes | None:
    """With the properties that are kept: elements and attributes of rdf:Description."""
    # A document type could make entities grow without end; no packet needs one.
    if packet is None or b"<!" in packet:
        return None
    try:
        root = ET.fromstring(packet)
    except ET.ParseError:
        return None
    for described in root.iter(f"{{{_RDF}}}Description"):
        for name in [
            n for n in described.attrib if not n.startswith(f"{{{_RDF}}}") and not keeps(n)
        ]:
            del described.attrib[name]
        for child in [c for c in described if not keeps(c.tag)]:
            described.remove(child)
    return bytes(ET.tostring(root, encoding="utf-8"))
