"""The menu entry, icon, file type and manual page, put where a Linux desktop looks for them."""

from __future__ import annotations

import shutil
import subprocess
import sys
from importlib import resources
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.messages import message
from mirkle.files.atomic_write import write_whole

# Each shipped file and its place under the user's own data folder (XDG base directories, icon theme, shared MIME info).
PLACES = {
    "mirkle.desktop": "applications/mirkle.desktop",
    "mirkle.svg": "icons/hicolor/scalable/apps/mirkle.svg",
    "mirkle.xml": "mime/packages/mirkle.xml",
    "mirkle.1": "man/man1/mirkle.1",
    "mirkle.metainfo.xml": "metainfo/org.mirkle.Mirkle.metainfo.xml",
    "mirkle.bash": "bash-completion/completions/mirkle",
    "mirkle.zsh": "zsh/site-functions/_mirkle",
}
# What makes a desktop look again; where one is missing, the desktop finds out at the next log-in.
_LOOK_AGAIN = (("update-mime-database", "mime"), ("update-desktop-database", "applications"))


def install() -> list[Path]:
    """Puts every file in its place, and says where.

    Raises
    ------
    MirkleError
        A place can't be written.
    """
    home, written = _data_home(), []
    for name, place in PLACES.items():
        target = home / place
        try:
            target.parent.mkdir(parents=True, exist_ok=True)
            write_whole(target, _content(name))
        except OSError as error:
            raise MirkleError(
                message("it can't be written ({0})", error.strerror), mend="check who may write there", where=str(target)
            ) from None
        written.append(target)
    _look_again(home)
    return written


def remove() -> list[Path]:
    """Takes away every file that :func:`install` puts in its place, and says which were there. Stages and settings stay.

    Raises
    ------
    MirkleError
        One of them can't be taken away.
    """
    home, removed = _data_home(), []
    for target in (home / place for place in PLACES.values()):
        try:
            target.unlink()
        except (FileNotFoundError, NotADirectoryError):
            continue
        except OSError as error:
            raise MirkleError(
                message("it can't be removed ({0})", error.strerror), mend="check who may write there", where=str(target)
            ) from None
        removed.append(target)
    if removed:
        _look_again(home)
    return removed


def _data_home() -> Path:
    # What packs for Debian knows the places with nothing but Python.
    from platformdirs import user_data_dir

    return Path(user_data_dir())


def _look_again(home: Path) -> None:
    for command, folder in _LOOK_AGAIN:
        if shutil.which(command) and (home / folder).is_dir():
            subprocess.run([command, str(home / folder)], check=False, capture_output=True)


def _content(name: str) -> bytes:
    content = (resources.files("mirkle") / "share" / name).read_bytes()
    if name.endswith(".desktop"):
        # The command as it is installed here: a menu knows nothing of a virtual environment.
        program = Path(sys.executable).with_name("mirkle")
        if program.exists():
            content = content.replace(b"Exec=mirkle", f"Exec={_quoted(str(program))}".encode())
    return content


def _quoted(program: str) -> str:
    """A program as the Exec key takes it: in double quotes, with what means something there escaped (Desktop Entry Specification,
    "The Exec key"); a per cent sign stands for a field of its own unless it is doubled."""
    escaped = "".join(f"\\{c}" if c in '"`$\\' else c for c in program).replace("%", "%%")
    # The value is a string of the file as well, in which a backslash is written as two.
    return f'"{escaped}"'.replace("\\", "\\\\")
