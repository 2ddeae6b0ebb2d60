"""What lies inside a packed file, with its faults said in one place."""

from __future__ import annotations

import io
import lzma
import struct
import zipfile
import zlib
from collections.abc import Callable
from pathlib import Path

from mirkle.core.messages import message
from mirkle.files.detect import LARGEST_RUN_BYTES, UnusableFile, read_bytes


def members(content: bytes, wanted: Callable[[str], bool], *, name: str, most: int | None = None) -> list[tuple[str, bytes]]:
    """The path and the bytes of each wanted member, in the archive's order, up to a number.

    Raises
    ------
    UnusableFile
        The archive is damaged, or what is wanted would be too large unpacked.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            found = [i for i in archive.infolist() if wanted(i.filename)][:most]
            out, left = [], LARGEST_RUN_BYTES
            for member in found:
                out.append((member.filename, read_member(archive, member, left, mend="export the one stage alone")))
                left -= len(out[-1][1])
            return out
    except UnusableFile as fault:
        raise UnusableFile(fault.what, mend=fault.mend, where=name) from None
    except PACKED_FAULTS:
        raise UnusableFile("the packed file is damaged", mend="copy it again", where=name) from None


# What reading a damaged archive may end in, whatever it is packed with.
PACKED_FAULTS = (
    zipfile.BadZipFile,
    EOFError,
    OSError,
    ValueError,
    RuntimeError,
    NotImplementedError,
    zlib.error,
    lzma.LZMAError,
    struct.error,
    OverflowError,
)


def read_member(archive: zipfile.ZipFile, member: zipfile.ZipInfo, largest: int, *, mend: str) -> bytes:
    """What a member holds, unpacked no further than a size, whatever the archive says of it.

    Raises
    ------
    UnusableFile
        It is larger.
    """
    if member.file_size <= largest:
        with archive.open(member) as file:
            content = file.read(largest + 1)
        if len(content) <= largest:
            return content
    raise UnusableFile(message("unpacked it is over {0:.0f} MB", largest / 1e6), mend=mend, where=member.filename)


def packed_folder(folder: Path) -> bytes:
    """The tables of a folder as an archive, as a telephone would have packed them.

    Raises
    ------
    UnusableFile
        There is none in it, one can't be read, or they are too large.
    """
    try:
        tables = sorted(p for p in folder.iterdir() if p.suffix.lower() == ".csv" and p.is_file())
        size = sum(p.stat().st_size for p in tables)
    except OSError as error:
        raise UnusableFile(message("it can't be read ({0})", error.strerror), mend="check who may read it", where=folder.name) from None
    if not tables:
        raise UnusableFile("this is a folder without a table in it", mend="choose the files in it", where=folder.name)
    if size > LARGEST_RUN_BYTES:
        raise UnusableFile(message("it is over {0:.0f} MB", LARGEST_RUN_BYTES / 1e6), mend="export the one stage alone", where=folder.name)
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as archive:
        for table in tables:
            # With a day that does not count, the same folder is always the same material.
            archive.writestr(zipfile.ZipInfo(table.name), read_bytes(table, largest=LARGEST_RUN_BYTES, wanted="a table"))
    return packed.getvalue()
