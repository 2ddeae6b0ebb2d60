"""First look at a file: is it there, is it text, is it a size that one stage could have."""

from __future__ import annotations

import gzip
import io
import re
import zlib
from itertools import islice
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.messages import gettext_noop, message

# A 40 km stage at 200 Hz with every channel is under 100 MB as text: twice that is taken in, with under 1 GB of memory.
LARGEST_RUN_BYTES = 200_000_000
# A book of 400 notes is 10 kB, an hour of recognised words with a time each under 1 MB.
LARGEST_TEXT_BYTES = 4_000_000
# A season of books in one file is under this, as are ten hours of speech; a document may hold pictures as well.
LARGEST_NOTES_BYTES, LARGEST_DOCUMENT_BYTES = 500_000, 40_000_000

_GZIP = b"\x1f\x8b"
# Sentences of a receiver may stand among its binary messages.
_SENTENCE = re.compile(rb"\$[A-Z]{2}(?:RMC|GGA|GNS|GLL|VTG|GSA|GSV),")
# A measurement file is binary, and has a reader of its own.
_MEASUREMENT = b"MDF     "
_PICTURES = {
    b"\x89PNG": gettext_noop("a PNG picture"),
    b"\xff\xd8\xff": gettext_noop("a JPEG picture"),
    b"GIF8": gettext_noop("a GIF picture"),
    b"II*\0": gettext_noop("a TIFF picture"),
    b"MM\0*": gettext_noop("a TIFF picture"),
}
_OTHERS = {
    b"%PDF": gettext_noop("a PDF"),
    b"RIFF": gettext_noop("a sound or video file"),
    b"OggS": gettext_noop("a sound file"),
    b"fLaC": gettext_noop("a sound file"),
    b"SQLite format 3\x00": gettext_noop("a database"),
}


class UnusableFile(MirkleError):
    """A file that is missing, empty, too large, or not what it should be."""


def read_bytes(path: Path, *, largest: int, wanted: str) -> bytes:
    """The whole content of a text file, packed ones as they are (see :func:`unpacked`).

    Parameters
    ----------
    largest : bytes; a larger file is refused before it is read
    wanted : what the file should have been, in words, for the sentence

    Raises
    ------
    UnusableFile
        It is missing, a folder, unreadable, empty, too large, or not text.
    """
    name = path.name
    try:
        if path.exists() and not path.is_file() and not path.is_dir():
            # Reading from it might never end.
            raise UnusableFile("this is a pipe or a device, no file", mend=message("choose the file with {0}", wanted), where=name)
        if path.is_dir():
            raise UnusableFile("this is a folder", mend=message("choose the file with {0}", wanted), where=name)
        size = path.stat().st_size
        with path.open("rb") as file:
            head = file.read(4096)
    except FileNotFoundError:
        raise UnusableFile("there is no such file", mend="check its name and folder", where=str(path)) from None
    except OSError as error:
        raise UnusableFile(message("it can't be read ({0})", error.strerror), mend="check who may read it", where=name) from None
    if not head:
        raise UnusableFile("the file is empty", mend=message("choose the file with {0}", wanted), where=name)
    refuse_if_not_text(head, name=name, wanted=wanted)
    if size > largest:
        raise UnusableFile(
            message("it is {0:.0f} MB, and {1} is under {2:.0f} MB", size / 1e6, wanted, largest / 1e6),
            mend="export the one stage alone",
            where=name,
        )
    return path.read_bytes()


def refuse_if_not_text(head: bytes, *, name: str, wanted: str) -> None:
    """Raises :class:`UnusableFile` if the first bytes are those of a picture, an archive or other binary data."""
    if head.startswith(b"PK\x03\x04") or _SENTENCE.search(head) or head[8:12] == b".FIT":
        return
    picture = next((what for magic, what in _PICTURES.items() if head.startswith(magic)), None)
    if head[4:12] in (b"ftypheic", b"ftypmif1", b"ftypavif"):
        picture = gettext_noop("a telephone's picture")
    if picture is None and head.startswith(b"RIFF") and head[8:12] == b"WEBP":
        picture = gettext_noop("a WebP picture")
    if picture is not None:
        raise UnusableFile(
            message("this is {0}, and pictures of notes are not read", picture),
            mend="type the notes in: “Type the notes in…” in Gather",
            where=name,
        )
    for magic, what in _OTHERS.items():
        if head.startswith(magic):
            raise UnusableFile(message("this is {0}, not text", what), mend=message("choose the file with {0}", wanted), where=name)
    if head.startswith((_GZIP, _MEASUREMENT)):
        return
    utf16 = head.startswith((b"\xff\xfe", b"\xfe\xff")) or utf16_without_mark(head) is not None
    if not utf16 and b"\x00" in head:
        raise UnusableFile("this is binary data, not text", mend=message("choose the file with {0}", wanted), where=name)


def unpacked(content: bytes, *, name: str, largest: int, wanted: str) -> bytes:
    """The content as it is, or what a ``.gz`` holds.

    Raises
    ------
    UnusableFile
        It is damaged, empty, unpacks to more than ``largest`` bytes, or is not text.
    """
    if len(content) > largest:
        raise UnusableFile(
            message("it is {0:.0f} MB, and {1} is under {2:.0f} MB", len(content) / 1e6, wanted, largest / 1e6),
            mend="export the one stage alone",
            where=name,
        )
    if content[:2] != _GZIP:
        refuse_if_not_text(content[:4096], name=name, wanted=wanted)
        return content
    try:
        with gzip.open(io.BytesIO(content), "rb") as file:
            plain = file.read(largest + 1)
    except (OSError, EOFError, zlib.error):
        raise UnusableFile("the packed file is damaged", mend="copy it again", where=name) from None
    if not plain:
        raise UnusableFile("the file is empty", mend=message("choose the file with {0}", wanted), where=name)
    if len(plain) > largest:
        raise UnusableFile(message("unpacked it is over {0:.0f} MB", largest / 1e6), mend="export the one stage alone", where=name)
    refuse_if_not_text(plain[:4096], name=name, wanted=wanted)
    return plain


def utf16_without_mark(content: bytes) -> str | None:
    """The byte order of a text in UTF-16 that has no mark, ``None`` where it is none: every second byte of most letters is nought."""
    head = content[:2000]
    even, odd = head[::2].count(0), head[1::2].count(0)
    if head[:2] in (b"\xff\xfe", b"\xfe\xff") or max(even, odd) < 0.3 * len(head) or min(even, odd) > 0.03 * len(head):
        return None
    order = "utf-16-le" if odd > even else "utf-16-be"
    # Most of its letters are such as people write; those of other binary data are not.
    text = head[: len(head) // 2 * 2].decode(order, "replace")
    return order if sum(c.isprintable() or c in "\r\n\t" for c in text) > 0.98 * len(text) else None


# How many bytes beyond ASCII are looked at to tell a code, and the apostrophe of Windows-1252, which stands inside words.
_TELL_BY, _APOSTROPHE = 4000, 0x92


def _of_one_byte(content: bytes) -> str:
    """A text of a byte a letter, in Windows-1252 (of which Latin-1 is a part) or Mac Roman: in the one in which more of its bytes are
    letters inside words and signs outside of them."""
    likely = {"cp1252": 0, "mac-roman": 0}
    beyond = (i for i, byte in enumerate(content) if byte >= 0x80)
    for i in islice(beyond, _TELL_BY):
        near = content[max(i - 1, 0) : i] + content[i + 1 : i + 2]
        inside = len(near) == 2 and near.isalpha()
        for code in likely:
            sign = content[i : i + 1].decode(code, "replace")
            is_letter = sign.isalpha() and (sign.islower() or not near[:1].islower())
            fits = is_letter if near[:1].isalpha() or near[1:].isalpha() else not sign.isalnum()
            fits = fits and sign != "\ufffd"
            likely[code] += fits or (code == "cp1252" and inside and content[i] == _APOSTROPHE)
    code = "mac-roman" if likely["mac-roman"] > likely["cp1252"] else "cp1252"
    return content.decode(code, "replace")


def decoded(content: bytes, *, name: str) -> str:
    """Text from UTF-8, UTF-16, Windows-1252, Mac Roman or Latin-1; line ends become ``\\n``."""
    if (order := utf16_without_mark(content)) is not None:
        text = content.decode(order, "replace")
    elif content.startswith((b"\xff\xfe", b"\xfe\xff")):
        try:
            text = content.decode("utf-16")
        except UnicodeDecodeError:
            raise UnusableFile("the text is damaged", mend="save it as UTF-8", where=name) from None
    else:
        try:
            text = content.decode("utf-8-sig")
        except UnicodeDecodeError:
            text = _of_one_byte(content)
    return text.replace("\r\n", "\n").replace("\r", "\n")
