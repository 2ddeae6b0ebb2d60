"""What lies inside a packed file, with its faults said in one place."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable

from mirkle.core.clauses import clause
from mirkle.files.sniff import LARGEST_RUN_BYTES, UnusableFile


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
