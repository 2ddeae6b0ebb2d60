"""What lies inside a packed file, with its faults said in one place."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from pathlib import Path

from mirkle.core.clauses import clause
from mirkle.files.sniff import LARGEST_RUN_BYTES, UnusableFile, read_bytes


def members(
    content: bytes, wanted: Callable[[str], bool], *, name: str, most: int | None = None
) -> list[tuple[str, bytes]]:
    """The path and the bytes of each wanted member, in the archive's order, at most so many.

    Raises
    ------
    UnusableFile
        The archive is damaged, or what is wanted would be too large unpacked.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            found = [i for i in archive.infolist() if wanted(i.filename)][:most]
            if sum(i.file_size for i in found) > LARGEST_RUN_BYTES:
                raise UnusableFile(
                    clause("unpacked it is over {0:.0f} MB", LARGEST_RUN_BYTES / 1e6),
                    mend="export the one stage alone",
                    where=name,
                )
            return [(i.filename, archive.read(i)) for i in found]
    except (zipfile.BadZipFile, EOFError, OSError, ValueError, RuntimeError, NotImplementedError):
        raise UnusableFile("the packed file is damaged", mend="copy it again", where=name) from None


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
        raise UnusableFile(
            clause("it can't be read ({0})", error.strerror), mend="check who may read it", where=folder.name
        ) from None
    if not tables:
        raise UnusableFile("this is a folder without a table in it", mend="choose the files in it", where=folder.name)
    if size > LARGEST_RUN_BYTES:
        raise UnusableFile(
            clause("it is over {0:.0f} MB", LARGEST_RUN_BYTES / 1e6),
            mend="export the one stage alone",
            where=folder.name,
        )
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as archive:
        for table in tables:
            # With a day that does not count, the same folder is always the same material.
            archive.writestr(
                zipfile.ZipInfo(table.name), read_bytes(table, largest=LARGEST_RUN_BYTES, wanted="a table")
            )
    return packed.getvalue()
