"""Makes the virtual environment from the lock files and sees to the system libraries that Qt needs.

Run by make with any Python 3.11 or newer and nothing else installed: ``python3 tools/set_up.py run [test]``.
A second run that finds everything in place takes a fraction of a second.
"""

from __future__ import annotations

import ctypes
import hashlib
import os
import platform
import shutil
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
VENV = ROOT / ".venv"
# Pip itself: what comes with Python is of Python's age, and takes twice as long over the same locks.
PIP = "requirements/pip.txt"
LOCKS = {
    "run": [["--require-hashes", "-r", "requirements/run.txt"]],
    "mdf": [["--require-hashes", "-r", "requirements/mdf.txt"]],
    "sound": [["--require-hashes", "-r", "requirements/sound.txt"]],
    "test": [
        ["--require-hashes", "-r", "requirements/test.txt"],
        # A recorded drive and a second reader: what they depend on is not wanted.
        ["--require-hashes", "--no-deps", "-r", "requirements/outside.txt"],
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
    "numpy/**/tests", "scipy/**/tests", "PyQt6/Qt6/qml", "PyQt6/Qt6/translations",
    *(f"PyQt6/Qt6/lib/libQt6{part}*" for part in (
        "Quick3D", "QuickControls2", "QuickDialogs2", "QuickEffects", "QuickLayouts", "QuickParticles", "QuickShapes",
        "QuickTemplates2", "QuickTest", "QuickTimeline", "QuickVectorImage", "QuickWidgets", "Labs", "Designer", "Help", "Bluetooth", "Nfc", "Sensors", "SerialPort", "RemoteObjects", "WebChannel",
        "WebSockets", "Positioning", "StateMachine", "SpatialAudio", "Sql", "ShaderTools",
    )),
    *(f"PyQt6/Qt{part}*.abi3.so" for part in (
        "Quick", "Qml", "Designer", "Help", "Bluetooth", "Nfc", "Sensors", "SerialPort", "RemoteObjects", "WebChannel", "WebSockets",
        "Positioning", "StateMachine", "SpatialAudio", "Sql",
    )),
    *(f"PyQt6/Qt6/plugins/{part}" for part in (
        "assetimporters", "geometryloaders", "sceneparsers", "renderers", "renderplugins", "sqldrivers", "designer", "help", "position",
        "sensors", "canbus", "qmllint", "qmlls", "qmltooling", "texttospeech", "webview",
    )),
    # What describes Qt to makers of other bindings.
    "PyQt6/bindings",
    # A wheel that was built with a second copy of its libraries.
    "lib64",
)  # fmt: skip
# Parts of scipy that only the tests' own references need.
FOR_TESTS = tuple(f"scipy/{part}" for part in (
    "cluster", "datasets", "differentiate", "integrate", "interpolate", "io", "misc", "odr", "optimize", "signal", "spatial", "stats",
))  # fmt: skip
TEST_PROGRAMS = {"xvfb-run": "xvfb", "xauth": "xauth"}


def main() -> int:
    """Sets up the named parts; returns 1 with a sentence where the user has to do something first."""
    parts = sys.argv[1:]
    missing = [package for library, package in WINDOW_LIBRARIES.items() if not _loads(library)]
    if "test" in parts:
        missing += [package for program, package in TEST_PROGRAMS.items() if shutil.which(program) is None]
    if not _answers() and not _has_ensurepip():
        missing.append("python3-venv")
    if missing and not _install(missing):
        return 1
    for part in parts:
        _fill(part, tested="test" in parts)
    return 0


def _answers() -> bool:
    """Whether the virtual environment is whole: its Python runs, from here, with a pip in it, and is the one that it was made with.

    A set-up that was killed half-way, a folder that was moved, or a Python that was exchanged under it leave one that is not.
    """
    python = VENV / "bin" / "python"
    asked = "import pip, platform, sys; print(sys.prefix, platform.python_version(), sep='|')"
    try:
        told = subprocess.run([str(python), "-c", asked], capture_output=True, text=True, check=False)
    except OSError:
        return False
    wanted = f"{VENV}|{sys.version_info.major}.{sys.version_info.minor}."
    return told.returncode == 0 and told.stdout.startswith(wanted)


def _loads(library: str) -> bool:
    try:
        ctypes.CDLL(library)
    except OSError:
        return False
    return True


def _has_ensurepip() -> bool:
    return subprocess.run([sys.executable, "-c", "import ensurepip"], capture_output=True, check=False).returncode == 0


def _install(packages: list[str]) -> bool:
    line = "apt-get install -y --no-install-recommends " + " ".join(packages)
    if os.geteuid() != 0 or shutil.which("apt-get") is None:
        print(f"The window needs some system libraries first. Run this once:\n\n    sudo {line}\n", file=sys.stderr)
        return False
    print(f"Installing system libraries: {' '.join(packages)}")
    environment = os.environ | {"DEBIAN_FRONTEND": "noninteractive"}
    subprocess.run(["apt-get", "update", "-qq"], check=True, env=environment)
    subprocess.run(
        ["apt-get", "install", "-y", "-qq", "--no-install-recommends", *packages], check=True, env=environment
    )
    return True


def _fill(part: str, *, tested: bool) -> None:
    """Installs a part's lock files unless exactly they were installed before."""
    python = str(VENV / "bin" / "python")
    stamp = VENV / f".{part}.lock"
    locks = hashlib.sha256(b"".join((ROOT / step[-1]).read_bytes() for step in LOCKS[part])).hexdigest()
    # What was installed is right for this place and this interpreter only: the program's own link leads here.
    wanted = f"{locks} {ROOT} {platform.python_version()}"
    whole = _answers()
    if whole and stamp.exists() and stamp.read_text() == wanted:
        return
    environment = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    pip = [python, "-m", "pip", "install", "--quiet", "--disable-pip-version-check", "--no-compile"]

    def run(*arguments: str) -> None:
        subprocess.run(arguments, check=True, cwd=ROOT, env=environment)

    if not whole:
        if VENV.exists():
            print("The virtual environment in .venv does not answer: it is made anew")
            shutil.rmtree(VENV)
        else:
            print("Making the virtual environment in .venv")
        run(sys.executable, "-m", "venv", str(VENV))
        run(*pip, "--require-hashes", "-r", PIP)
    print(f"Installing what Mirkle needs to {part}; this happens once")
    for step in LOCKS[part]:
        run(*pip, *step)
    packages = next(VENV.glob("lib/python3*/site-packages"))
    if part == "run":
        slim(packages, UNUSED if tested else UNUSED + FOR_TESTS)
        run(*pip, "--no-build-isolation", "--no-deps", "--editable", ".")
    elif part == "test" and any(not (packages / name).exists() for name in FOR_TESTS):
        run(*pip, "--force-reinstall", "--no-deps", "--require-hashes", "-c", "requirements/run.txt", "scipy")
    # Byte code is made now, on all cores: without it the first start of the window would take seconds longer.
    compiled = [python, "-m", "compileall", "-qq", "-j", "0", "src", str(packages)]
    subprocess.run(compiled, check=False, cwd=ROOT, env=environment)
    stamp.write_text(wanted)


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
