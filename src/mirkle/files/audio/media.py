"""Sound and video of a run: kept by reference, since they are large and stay where they are."""

from __future__ import annotations

import hashlib
import json
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.messages import message
from mirkle.files.demo_files import demo_folder
from mirkle.files.detect import UnusableFile
from mirkle.files.project.project import SourceFile

# How the first bytes of what can be played look: WAV, FLAC, Ogg with Opus or Vorbis, MP3, MP4 and its kin, Matroska.
_BEGINNINGS = ((0, b"RIFF"), (0, b"fLaC"), (0, b"OggS"), (0, b"ID3"), (4, b"ftyp"), (0, b"\x1aE\xdf\xa3"))
_SHIPPED = "shipped:"


def is_media(path: Path) -> bool:
    """Whether a file begins as sound or video does."""
    if not path.is_file():
        return False
    try:
        with path.open("rb") as file:
            head = file.read(16)
    except OSError:
        return False
    # A telephone's pictures lie in the same kind of box as video, and so does a picture in the kind that sound lies in.
    if head[8:12] in (b"heic", b"mif1", b"avif", b"WEBP"):
        return False
    mp3_frame = len(head) > 1 and head[0] == 0xFF and head[1] & 0xE6 == 0xE2
    return mp3_frame or any(head[at : at + len(begin)] == begin for at, begin in _BEGINNINGS)


def reference(path: Path) -> SourceFile:
    """A sound or video as it is kept in a project: where it lies, how large it is, and its SHA-256.

    Raises
    ------
    UnusableFile
        It can't be read.
    """
    digest = hashlib.sha256()
    try:
        with path.open("rb") as file:
            while block := file.read(1 << 20):
                digest.update(block)
        size = path.stat().st_size
    except OSError as error:
        raise UnusableFile(message("it can't be read ({0})", error.strerror), mend="check who may read it", where=path.name) from None
    data = {"path": str(path.resolve()), "bytes": size, "sha256": digest.hexdigest()}
    return SourceFile("media", path.name, json.dumps(data).encode())


def shipped_reference(name: str) -> SourceFile:
    """A sound that ships with the application, wherever that is installed."""
    return SourceFile("media", name, json.dumps({"path": _SHIPPED + name}).encode())


def media_path(material: SourceFile) -> Path:
    """Where a kept sound or video lies now.

    Raises
    ------
    MirkleError
        It is no longer there, or another file is.
    """
    try:
        data = json.loads(material.content)
        where, size = str(data["path"]), data.get("bytes")
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        what = "where the sound lies can't be read"
        raise MirkleError(what, mend="drop it on the window again", where=material.name) from None
    if where.startswith(_SHIPPED):
        name = Path(where.removeprefix(_SHIPPED)).name
        return demo_folder() / name
    path = Path(where.replace("\0", ""))
    if not path.is_file():
        raise MirkleError("the sound is no longer there", mend="drop it on the window again", where=where)
    if path.stat().st_size != size:
        raise MirkleError("the sound is not the file that was added", mend="drop the right one again", where=where)
    return path
