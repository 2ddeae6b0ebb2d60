"""Makes the virtual environment from the lock files and sees to the system libraries that Qt needs.

Run by make with any Python 3.11 or newer and nothing else installed: ``python3 tools/set_up.py run [test] [outside]``.

An environment is never repaired, only made anew. Each one carries a record, written last: its parts, its place, its Python, and every
file with its size. When the record is missing or a file differs, something went wrong, and the environment is made again. A run that
finds everything in place takes a fraction of a second.
"""

from __future__ import annotations

import ctypes
import fcntl
import hashlib
import json
import os
import platform
import re
import shutil
import subprocess
import sys
import sysconfig
import tempfile
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
VENV = ROOT / ".venv"
RECORD = ".set-up.json"
# What installs them: a third of a minute less than pip, which is what fetches it, and what installs where it can't.
INSTALLER = "requirements/uv.txt"
LOCKS = {
    "run": [["--require-hashes", "-r", "requirements/run.txt"]],
    "mdf": [["--require-hashes", "-r", "requirements/mdf.txt"]],
    "sound": [["--require-hashes", "-r", "requirements/sound.txt"]],
    "test": [["--require-hashes", "-r", "requirements/test.txt"]],
    "docs": [["--require-hashes", "-r", "requirements/docs.txt"]],
    "outside": [
        ["--require-hashes", "-r", "requirements/outside.txt"],
        # A recorded drive and second readers: what they depend on is not wanted.
        ["--require-hashes", "--no-deps", "-r", "requirements/bare.txt"],
    ],
}
# Library as the loader names it -> Debian package.
WINDOW_LIBRARIES = {
    "libEGL.so.1": "libegl1",
    "libGL.so.1": "libgl1",
    "libxkbcommon.so.0": "libxkbcommon0",
    "libdbus-1.so.3": "libdbus-1-3",
    "libfontconfig.so.1": "libfontconfig1",
    "libglib-2.0.so.0": "libglib2.0-0",
    "libxcb-cursor.so.0": "libxcb-cursor0",
    "libxkbcommon-x11.so.0": "libxkbcommon-x11-0",
    "libxcb-icccm.so.4": "libxcb-icccm4",
    "libxcb-keysyms.so.1": "libxcb-keysyms1",
    "libxcb-shape.so.0": "libxcb-shape0",
    "libpulse.so.0": "libpulse0",
    "libgssapi_krb5.so.2": "libgssapi-krb5-2",
    "libXrandr.so.2": "libxrandr2",
}
# Parts of packages that nothing here uses: a quarter of what they take on the disk. The whole suite runs without them.
# What plays sound and video needs libQt6Quick and libQt6Qml.
UNUSED = (
    "numpy/**/tests",
    "scipy/**/tests",
    "PyQt6/Qt6/qml",
    "PyQt6/Qt6/translations",
    *(
        f"PyQt6/Qt6/lib/libQt6{part}*"
        for part in (
            "Quick3D",
            "QuickControls2",
            "QuickDialogs2",
            "QuickEffects",
            "QuickLayouts",
            "QuickParticles",
            "QuickShapes",
            "QuickTemplates2",
            "QuickTest",
            "QuickTimeline",
            "QuickVectorImage",
            "QuickWidgets",
            "Labs",
            "Designer",
            "Help",
            "Bluetooth",
            "Nfc",
            "Sensors",
            "SerialPort",
            "RemoteObjects",
            "WebChannel",
            "WebSockets",
            "Positioning",
            "StateMachine",
            "SpatialAudio",
            "Sql",
            "ShaderTools",
            "PdfQuick",
            "PdfWidgets",
            "TextToSpeech",
            "EglFSDeviceIntegration",
        )
    ),
    *(
        f"PyQt6/Qt{part}*.abi3.so"
        for part in (
            "Quick",
            "Qml",
            "Designer",
            "Help",
            "Bluetooth",
            "Nfc",
            "Sensors",
            "SerialPort",
            "RemoteObjects",
            "WebChannel",
            "WebSockets",
            "Positioning",
            "StateMachine",
            "SpatialAudio",
            "Sql",
            "PdfWidgets",
            "TextToSpeech",
            "OpenGL",
        )
    ),
    *(
        f"PyQt6/Qt6/plugins/{part}"
        for part in (
            "assetimporters",
            "geometryloaders",
            "sceneparsers",
            "renderers",
            "renderplugins",
            "sqldrivers",
            "designer",
            "help",
            "position",
            "sensors",
            "canbus",
            "qmllint",
            "qmlls",
            "qmltooling",
            "texttospeech",
            "webview",
            "egldeviceintegrations",
            "platforms/libqeglfs*",
            "platforms/libqlinuxfb*",
            "platforms/libqminimalegl*",
            "platforms/libqv*",
        )
    ),
    # What describes Qt to makers of other bindings.
    "PyQt6/bindings",
    "lxml/objectify*",
    "lxml/isoschematron",
    "lxml/includes",
    # A wheel that was built with a second copy of its libraries.
    "lib64",
)
# Parts of scipy that only the tests' own references need.
FOR_TESTS = tuple(
    f"scipy/{part}"
    for part in (
        "cluster",
        "datasets",
        "differentiate",
        "integrate",
        "interpolate",
        "io",
        "misc",
        "odr",
        "optimize",
        "signal",
        "spatial",
        "stats",
    )
)
# What builds packages is not what runs.
FOR_BUILDING = ("setuptools", "setuptools-*", "pkg_resources", "_distutils_hack", "distutils-precedence.pth", "wheel", "wheel-*")
TEST_PROGRAMS = {"xvfb-run": "xvfb", "xauth": "xauth"}
# What the environment has to import before it counts as made: all that the program starts with.
IMPORTS = {"run": "import mirkle.cli, mirkle.gui.app, av, scipy.linalg", "test": "import pytest, hypothesis, scipy.optimize"}
# pip gives an address that doesn't answer a quarter of a minute, five times over.
BRIEFLY = ("--retries", "1", "--timeout", "5")
OFFLINE = "Could not fetch URL"


class SetUpError(Exception):
    """Something the user has to see to first, as one sentence."""


def main() -> int:
    """Sets up the named parts; returns 1 with a sentence where the user has to do something first."""
    # Two runs of make in one folder take turns.
    with Path(__file__).open() as turn:
        fcntl.flock(turn, fcntl.LOCK_EX)
        try:
            _system(sys.argv[1:])
            _environment(set(sys.argv[1:]))
        except SetUpError as error:
            print(error, file=sys.stderr)
            return 1
    return 0


def _system(parts: list[str]) -> None:
    """Installs system packages, or asks for them: once, for the program and its tests."""
    needed = [package for library, package in WINDOW_LIBRARIES.items() if not _loads(library)]
    if not VENV.exists() and not _has_ensurepip():
        needed.append("python3-venv")
    for_tests = [package for program, package in TEST_PROGRAMS.items() if shutil.which(program) is None]
    if needed or ("test" in parts and for_tests):
        _install(needed + for_tests)


def _loads(library: str) -> bool:
    try:
        ctypes.CDLL(library)
    except OSError:
        return False
    return True


def _has_ensurepip() -> bool:
    return subprocess.run([sys.executable, "-c", "import ensurepip"], capture_output=True, check=False).returncode == 0


def _install(packages: list[str]) -> None:
    line = "apt-get install -y --no-install-recommends " + " ".join(packages)
    if os.geteuid() != 0 or shutil.which("apt-get") is None:
        raise SetUpError(f"Mirkle needs some system packages first. Run this once:\n\n    sudo {line}\n")
    print(f"Installing system packages: {' '.join(packages)}")
    environment = os.environ | {"DEBIAN_FRONTEND": "noninteractive"}
    briefly = ["-o", "Acquire::Retries=1", "-o", "Acquire::http::Timeout=5", "-o", "Acquire::https::Timeout=5"]
    for command in (["apt-get", "update", *briefly], [*line.split(), *briefly]):
        ran = subprocess.run(command, capture_output=True, text=True, check=False, env=environment)
        if ran.returncode != 0:
            said = (ran.stdout + ran.stderr).strip().splitlines()
            raise SetUpError(
                "\n".join(
                    [
                        *said[-12:],
                        f"The system packages could not be installed: {packages[0]} and others. "
                        "Is there a network? Run this again when the lines above are mended.",
                    ]
                )
            )


def _environment(parts: set[str]) -> None:
    """Makes the environment unless it holds these parts as their locks have them, whole."""
    held = _recorded()
    missing = {part for part in parts if held.get("locks", {}).get(part) != _lock_of(part)}
    # One that worked is kept until the new one does; what stands in its place after a kill is not one.
    aside = VENV.with_name(".venv.before")
    if not missing and _whole(held):
        shutil.rmtree(aside, ignore_errors=True)
        return
    if VENV.exists():
        print("The environment in .venv is not what the locks ask for: it is made anew")
    if aside.exists():
        shutil.rmtree(VENV, ignore_errors=True)
    elif VENV.exists():
        VENV.rename(aside)
    try:
        _make(sorted(parts | (set(held.get("locks", {})) & set(LOCKS)), key=list(LOCKS).index))
    except BaseException:
        shutil.rmtree(VENV, ignore_errors=True)
        if aside.exists():
            aside.rename(VENV)
        raise
    shutil.rmtree(aside, ignore_errors=True)


def _lock_of(part: str) -> str:
    return hashlib.sha256(b"".join((ROOT / step[-1]).read_bytes() for step in LOCKS[part])).hexdigest()


def _recorded() -> dict[str, dict[str, str]]:
    """The record of the environment, or nothing where there is none that can be read."""
    try:
        held: dict[str, dict[str, str]] = json.loads((VENV / RECORD).read_text())
    except (OSError, ValueError):
        return {}
    return held


def _files() -> Iterator[tuple[str, int]]:
    """Each file of the environment with its size, byte code aside: that may change with each start."""
    for folder, below, names in os.walk(VENV):
        below[:] = [name for name in below if name != "__pycache__"]
        for name in names:
            path = os.path.join(folder, name)
            if name != RECORD and not os.path.islink(path):
                yield os.path.relpath(path, VENV), os.stat(path).st_size


def _whole(held: dict[str, dict[str, str]]) -> bool:
    """Whether the environment is in the place and for the Python it was made for, answers, and misses nothing it was made with."""
    there = dict(_files())
    return held.get("made_for") == _made_for() and all(there.get(name) == int(size) for name, size in held["files"].items()) and _answers()


def _made_for() -> dict[str, str]:
    # Programs have its place written in them, and compiled packages belong to a Python.
    return {"place": str(VENV), "python": platform.python_version()}


def _answers() -> bool:
    """Whether the environment's Python runs, from here: a folder may have been moved, or a Python exchanged under it."""
    python = VENV / "bin" / "python"
    asked = "import platform, sys; print(sys.prefix, platform.python_version(), sep='|')"
    try:
        answer = subprocess.run([str(python), "-c", asked], capture_output=True, text=True, check=False)
    except OSError:
        return False
    return answer.returncode == 0 and answer.stdout.strip() == f"{VENV}|{platform.python_version()}"


def _make(parts: list[str]) -> None:
    """Makes the environment with these parts, checks it, and writes its record."""
    print(f"Installing what Mirkle needs to {' and to '.join(parts)}; this happens once")
    subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(VENV)], check=True)
    with tempfile.TemporaryDirectory() as folder:
        for part in parts:
            for step in LOCKS[part]:
                _add(Path(folder), *step)
        _add(Path(folder), "--no-build-isolation", "--no-deps", "--editable", ".")
    packages = next(VENV.glob("lib/python3*/site-packages"))
    check(packages, [ROOT / step[-1] for part in parts for step in LOCKS[part]])
    slim(packages, UNUSED if "test" in parts else UNUSED + FOR_TESTS + FOR_BUILDING)
    python = str(VENV / "bin" / "python")
    # Byte code is made now, on all cores: without it the first start of the window would take seconds longer.
    compiled = [python, "-m", "compileall", "-qq", "-j", "0", "src", str(packages)]
    subprocess.run(compiled, check=False, cwd=ROOT)
    for part in parts:
        ran = subprocess.run([python, "-c", IMPORTS.get(part, "")], capture_output=True, text=True, check=False)
        if ran.returncode != 0:
            raise SetUpError(f"What was installed to {part} does not start: {ran.stderr.strip().splitlines()[-1]}")
    record = {"locks": {part: _lock_of(part) for part in parts}, "made_for": _made_for(), "files": dict(_files())}
    written = VENV / f"{RECORD}.part"
    written.write_text(json.dumps(record))
    written.rename(VENV / RECORD)


def check(packages: Path, locks: list[Path]) -> None:
    """Every package of the locks is there in the version they name, with every file that it lists, in its size."""
    wanted = {
        _normal(name): version
        for lock in locks
        for name, version in re.findall(r"^([\w.-]+)==([^\s;]+)(?=[^;\n]*$)", lock.read_text(), re.MULTILINE)
    }
    for info in packages.glob("*.dist-info"):
        name, _, version = info.name.removesuffix(".dist-info").rpartition("-")
        if wanted.get(_normal(name)) == version:
            del wanted[_normal(name)]
        for line in (info / "RECORD").read_text().splitlines():
            path, _, size = line.rsplit(",", 2)
            path = path.strip('"')
            if size and (not (packages / path).exists() or (packages / path).stat().st_size != int(size)):
                raise SetUpError(f"{path} of {name} was not installed whole. Is the disk full? Run this again.")
    if wanted:
        raise SetUpError(f"Not everything was installed: {', '.join(wanted)} missing. Run this again.")


def _normal(name: str) -> str:
    return re.sub(r"[-_.]+", "-", name).lower()


def _add(folder: Path, *arguments: str) -> None:
    """Installs into the environment with uv, which the pip that Python brings along fetches into a folder; with that pip where it can't."""
    import ensurepip  # Debian has it in a package of its own, which is there by now.

    python = str(VENV / "bin" / "python")
    wheels = Path(sysconfig.get_config_var("WHEEL_PKG_DIR") or Path(ensurepip.__file__).parent / "_bundled")
    log = folder / "pip.log"
    pip = [
        python,
        f"{max(wheels.glob('pip-*.whl'))}/pip",
        "install",
        "--quiet",
        "--disable-pip-version-check",
        "--no-compile",
        "--log",
        str(log),
    ]
    uv = folder / "bin" / "uv"
    if not uv.exists():
        fetch = [*pip, *BRIEFLY, "--target", str(folder), "--require-hashes", "-r", INSTALLER]
        if subprocess.run(fetch, check=False, capture_output=True, cwd=ROOT).returncode != 0:
            _reached(log)
    # Copies: what is taken out of a package, or out of a module, is taken out of the environment alone.
    by_uv = [str(uv), "pip", "install", "--quiet", "--no-cache", "--link-mode", "copy", "--python", python, *arguments]
    if not uv.exists() or subprocess.run(by_uv, check=False, cwd=ROOT).returncode != 0:
        # An index, a proxy or a certificate may be known to pip's own settings alone.
        print("Once more with pip, which takes longer")
        if subprocess.run([*pip, *BRIEFLY, *arguments], check=False, cwd=ROOT).returncode != 0:
            _reached(log)
            raise SetUpError("The packages could not be installed: the lines above say why. Run this again when that is mended.")


def _reached(log: Path) -> None:
    """Says that there is no network where pip's log shows that."""
    if log.exists() and OFFLINE in log.read_text(errors="replace"):
        raise SetUpError("Mirkle's packages can't be fetched: their index does not answer. Connect to a network and run this again.")


def slim(packages: Path, unused: tuple[str, ...]) -> None:
    """Takes what nothing uses out of a folder of packages again, and the names out of what was built with them."""
    for pattern in unused:
        for path in packages.glob(pattern):
            if path.is_dir():
                shutil.rmtree(path)
            else:
                path.unlink()
    # Names of functions, three quarters of some modules. Only of these: libraries whose places were patched after linking would
    # not load any more.
    named = [str(path) for package in ("av", "pyproj") for path in (packages / package).rglob("*.so")]
    if named and shutil.which("strip") is not None:
        subprocess.run(["strip", "--strip-unneeded", *named], check=False)


if __name__ == "__main__":
    sys.exit(main())
