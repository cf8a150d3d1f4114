"""How much of what a file says of itself goes along: all, whose it is, nothing, all but the place.

Sources: Exif 2.32 (2019), section 4.6; XMP part 1 (2012), section 7; IPTC Photo Metadata 2023.1 for the names
of places.
"""

import re
import xml.etree.ElementTree as ET
from typing import Literal, get_args

from nubilis.photo.exif_block import DAMAGED, Block, collected, only_some, without_place
from nubilis.photo.iptc import OWNED, PLACES, only, without
from nubilis.photo.metadata import Metadata

About = Literal["all", "no-place", "copyright", "none"]
ABOUTS: tuple[About, ...] = get_args(About)
_ARTIST, _COPYRIGHT = 0x013B, 0x8298
_RDF = "http://www.w3.org/1999/02/22-rdf-syntax-ns#"
_RIGHTS = "http://ns.adobe.com/xap/1.0/rights/"
_DC = "http://purl.org/dc/elements/1.1/"
_OWNED = {f"{{{_DC}}}rights", f"{{{_DC}}}creator"}
_PLACES = {"State", "ProvinceState", "WorldRegion"}
# Any name with one of these words in it is about a place, whoever thought of it.
_OF_PLACES = {
    "location", "sublocation", "gps", "geo", "city", "country", "place", "latitude", "longitude", "altitude",
}  # fmt: skip
_WORDS = re.compile(r"[A-Z]+(?![a-z])|[A-Z]?[a-z]+")


def told(metadata: Metadata, about: About) -> Metadata:
    """What is left of it. What cannot be understood is left out as soon as anything should be."""
    if about == "all":
        return metadata
    if about == "none":
        return Metadata(dpi=metadata.dpi)
    owned = about == "copyright"
    iptc = metadata.iptc
    if iptc is not None:
        iptc = only(iptc, OWNED) if owned else without(iptc, PLACES)
    return Metadata(
        _exif(metadata.exif, owned), _xmp(metadata.xmp, owned), iptc or None, metadata.dpi
    )


def _exif(block: bytes | None, owned: bool) -> bytes | None:
    if block is None:
        return None
    try:
        if not owned:
            return without_place(block)
        return only_some(collected(Block(block)), (_ARTIST, _COPYRIGHT))
    except DAMAGED:
        return None


def _is_owned(name: str) -> bool:
    return name in _OWNED or name.startswith(f"{{{_RIGHTS}}}")


def _is_place(name: str) -> bool:
    """name: of a property, or the address of a type."""
    local = re.split(r"[}/#]", name)[-1]
    return local in _PLACES or any(word.lower() in _OF_PLACES for word in _WORDS.findall(local))


def _xmp(packet: bytes | None, owned: bool) -> bytes | None:
    # A document type could make entities grow without end; no packet needs one.
    if packet is None or b"<!" in packet:
        return None
    try:
        root = ET.fromstring(packet)
    except ET.ParseError:
        return None
    if owned:
        _keep_owned(root)
    else:
        _drop_places(root)
    return bytes(ET.tostring(root, encoding="utf-8"))


def _keep_owned(root: ET.Element) -> None:
    """Of all properties, which are elements and attributes of rdf:Description."""
    for described in root.iter(f"{{{_RDF}}}Description"):
        for name in [n for n in described.attrib if not n.startswith(f"{{{_RDF}}}")]:
            if not _is_owned(name):
                del described.attrib[name]
        for child in [c for c in described if not _is_owned(c.tag)]:
            described.remove(child)


def _drop_places(element: ET.Element) -> None:
    """Also inside structures, lists, attributes, and nodes whose type is a place."""
    for name in [n for n, value in element.attrib.items() if _is_place(n) or _points(value)]:
        del element.attrib[name]
    for child in list(element):
        typed = child.find(f"{{{_RDF}}}type")
        types = [] if typed is None else list(typed.attrib.values())
        if any(map(_is_place, [child.tag, *types])) or _points(child.text or ""):
            element.remove(child)
        else:
            _drop_places(child)


def _points(value: str) -> bool:
    """Somewhere on Earth (RFC 5870)."""
    return value.strip().startswith("geo:")
