"""XMP in a JPEG: in one segment, or, where it is larger than one may be, in several more.

Source: XMP specification part 3 (2020), section 1.1.3.
"""

import hashlib
import re
import struct
import xml.etree.ElementTree as ET
from collections.abc import Iterable, Iterator

PLAIN, FURTHER = b"http://ns.adobe.com/xap/1.0/\0", b"http://ns.adobe.com/xmp/extension/\0"
_RDF = "http://www.w3.org/1999/02/22-rdf-syntax-ns#"
_NOTE = "{http://ns.adobe.com/xmp/note/}HasExtendedXMP"
_MOST = 65_533  # bytes of a segment
_CHUNK = 65_400  # of what is in several
_NAMED = struct.Struct(">32sII")  # its digest, all of its bytes, where this one begins
_WRAPPING = re.compile(rb"<\?xpacket.*?\?>", re.DOTALL)


def xmp_payloads(packet: bytes) -> Iterator[bytes]:
    """Of the segments that a packet goes into."""
    if len(PLAIN) + len(packet) <= _MOST:
        yield PLAIN + packet
        return
    whole = _WRAPPING.sub(b"", packet).strip()
    digest = hashlib.md5(whole, usedforsecurity=False).hexdigest().upper()
    yield (
        PLAIN
        + (
            '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF '
            f'xmlns:rdf="{_RDF}"><rdf:Description rdf:about="" '
            f'xmlns:xmpNote="http://ns.adobe.com/xmp/note/" xmpNote:HasExtendedXMP="{digest}"/>'
            "</rdf:RDF></x:xmpmeta>"
        ).encode()
    )
    for at in range(0, len(whole), _CHUNK):
        yield FURTHER + _NAMED.pack(digest.encode(), len(whole), at) + whole[at : at + _CHUNK]


def with_further(packet: bytes, payloads: Iterable[bytes]) -> bytes:
    """The packet of a file with what it says in further segments; as it is where that is not all there.
    payloads: of its APP1 segments."""
    if b"HasExtendedXMP" not in packet or b"<!" in packet:
        return packet
    try:
        root = ET.fromstring(packet)
        described = list(root.iter(f"{{{_RDF}}}Description"))
        digest = next(d.attrib[_NOTE] for d in described if _NOTE in d.attrib)
        further = _joined(digest.encode(), payloads)
        for one in described:
            one.attrib.pop(_NOTE, None)
        if all(len(d) == 0 and set(d.attrib) <= {f"{{{_RDF}}}about"} for d in described):
            return further  # nothing else was said
        other = ET.fromstring(b"" if b"<!" in further else further)
    except (ET.ParseError, StopIteration, struct.error, ValueError):
        return packet
    own, more = root.find(f".//{{{_RDF}}}RDF"), other.find(f".//{{{_RDF}}}RDF")
    if own is None or more is None:
        return packet
    own.extend(more)
    return bytes(ET.tostring(root, encoding="utf-8"))


def _joined(digest: bytes, payloads: Iterable[bytes]) -> bytes:
    """Raises ValueError where something is missing."""
    pieces: dict[int, bytes] = {}
    size = 0
    for payload in payloads:
        if payload.startswith(FURTHER):
            named, size_said, at = _NAMED.unpack_from(payload, len(FURTHER))
            if named == digest:
                size, pieces[at] = size_said, payload[len(FURTHER) + _NAMED.size :]
    whole = b"".join(pieces[at] for at in sorted(pieces))
    if len(whole) != size or not whole:
        raise ValueError("a part is missing")
    return whole
