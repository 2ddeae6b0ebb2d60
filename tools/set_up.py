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
import sysconfig
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
VENV = ROOT / ".venv"
# What installs them: a third of a minute less than pip, which is what fetches it, and what installs where it can't.
INSTALLER = "requirements/uv.txt"
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
        "PdfQuick", "PdfWidgets", "TextToSpeech", "EglFSDeviceIntegration",
    )),
    *(f"PyQt6/Qt{part}*.abi3.so" for part in (
        "Quick", "Qml", "Designer", "Help", "Bluetooth", "Nfc", "Sensors", "SerialPort", "RemoteObjects", "WebChannel", "WebSockets",
        "Positioning", "StateMachine", "SpatialAudio", "Sql", "PdfWidgets", "TextToSpeech", "OpenGL",
    )),
    *(f"PyQt6/Qt6/plugins/{part}" for part in (
        "assetimporters", "geometryloaders", "sceneparsers", "renderers", "renderplugins", "sqldrivers", "designer", "help", "position",
        "sensors", "canbus", "qmllint", "qmlls", "qmltooling", "texttospeech", "webview",
        "egldeviceintegrations", "platforms/libqeglfs*", "platforms/libqlinuxfb*", "platforms/libqminimalegl*", "platforms/libqv*",
    )),
    # What describes Qt to makers of other bindings.
    "PyQt6/bindings",
    "lxml/objectify*", "lxml/isoschematron", "lxml/includes",
    # A wheel that was built with a second copy of its libraries.
    "lib64",
)  # fmt: skip
# Parts of scipy that only the tests' own references need.
FOR_TESTS = tuple(f"scipy/{part}" for part in (
    "cluster", "datasets", "differentiate", "integrate", "interpolate", "io", "misc", "odr", "optimize", "signal", "spatial", "stats",
))  # fmt: skip
# What builds packages is not what runs.
FOR_BUILDING = (
    "setuptools",
    "setuptools-*",
    "pkg_resources",
    "_distutils_hack",
    "distutils-precedence.pth",
    "wheel",
    "wheel-*",
)
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
    with tempfile.TemporaryDirectory() as folder:
        for part in parts:
            _fill(part, Path(folder), tested="test" in parts)
    return 0


def _answers() -> bool:
    """Whether the virtual environment is whole: its Python runs, from here, and is the one that it was made with.

    A set-up that was killed half-way, a folder that was moved, or a Python that was exchanged under it leave one that is not.
    """
    python = VENV / "bin" / "python"
    asked = "import platform, sys; print(sys.prefix, platform.python_version(), sep='|')"
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


def _fill(part: str, folder: Path, *, tested: bool) -> None:
    """Installs a part's lock files unless exactly they were installed before; ``folder`` for what installs them."""
    python = str(VENV / "bin" / "python")
    stamp = VENV / f".{part}.lock"
    locks = hashlib.sha256(b"".join((ROOT / step[-1]).read_bytes() for step in LOCKS[part])).hexdigest()
    # What was installed is right for this place and this interpreter only: the program's own link leads here.
    wanted = f"{locks} {ROOT} {platform.python_version()}"
    whole = _answers()
    if whole and stamp.exists() and stamp.read_text() == wanted:
        return
    if not whole:
        if VENV.exists():
            print("The virtual environment in .venv does not answer: it is made anew")
            shutil.rmtree(VENV)
        else:
            print("Making the virtual environment in .venv")
        subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(VENV)], check=True)
    print(f"Installing what Mirkle needs to {part}; this happens once")
    for step in LOCKS[part]:
        _add(folder, *step)
    packages = next(VENV.glob("lib/python3*/site-packages"))
    if part == "run":
        _add(folder, "--no-build-isolation", "--no-deps", "--editable", ".")
        slim(packages, UNUSED if tested else UNUSED + FOR_TESTS + FOR_BUILDING)
        if not tested:
            (VENV / ".test.lock").unlink(missing_ok=True)
        # Byte code is made now, on all cores: without it the first start of the window would take seconds longer.
        compiled = [python, "-m", "compileall", "-qq", "-j", "0", "src", str(packages)]
        subprocess.run(compiled, check=False, cwd=ROOT)
    elif part == "test" and any(not (packages / name).exists() for name in FOR_TESTS):
        shutil.rmtree(packages / "scipy")
        shutil.rmtree(next(packages.glob("scipy-[0-9]*")))
        _add(folder, "--no-deps", "--require-hashes", "-r", "requirements/run.txt")
    stamp.write_text(wanted)


def _add(folder: Path, *arguments: str) -> None:
    """Installs into the environment with uv, which the pip that Python brings along fetches into a folder; with that pip where it can't."""
    import ensurepip  # Debian has it in a package of its own, which is there by now.

    python = str(VENV / "bin" / "python")
    wheels = Path(sysconfig.get_config_var("WHEEL_PKG_DIR") or Path(ensurepip.__file__).parent / "_bundled")
    pip = [
        python,
        f"{max(wheels.glob('pip-*.whl'))}/pip",
        "install",
        "--quiet",
        "--disable-pip-version-check",
        "--no-compile",
    ]
    uv = folder / "bin" / "uv"
    if not uv.exists():
        subprocess.run([*pip, "--target", str(folder), "--require-hashes", "-r", INSTALLER], check=False, cwd=ROOT)
    # Copies: what is taken out of a package, or out of a module, is taken out of the environment alone.
    by_uv = [str(uv), "pip", "install", "--quiet", "--no-cache", "--link-mode", "copy", "--python", python, *arguments]
    if not uv.exists() or subprocess.run(by_uv, check=False, cwd=ROOT).returncode != 0:
        # An index, a proxy or a certificate may be known to pip's own settings alone.
        print("Once more with pip, which takes longer")
        subprocess.run([*pip, *arguments], check=True, cwd=ROOT)


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
