"""What a stranger installs: the wheel and the source archive, and a set-up that heals."""

from __future__ import annotations

import ast
import configparser
import importlib.util
import json
import os
import shutil
import subprocess
import sys
import tarfile
import zipfile
from pathlib import Path
from types import ModuleType

import pytest

from mirkle.cli import main
from mirkle.session import desktop

ROOT = Path(__file__).parents[1]


@pytest.fixture(scope="module")
def source(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A copy of what is in the repository, so that building leaves nothing behind in it."""
    copy = tmp_path_factory.mktemp("source") / "a folder"
    made = [line.strip("/\n") for line in (ROOT / ".gitignore").open()]
    return Path(shutil.copytree(ROOT, copy, ignore=shutil.ignore_patterns(".git", *made)))


@pytest.fixture(scope="module")
def built(source: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A folder with the wheel and the source archive."""
    folder = tmp_path_factory.mktemp("dist")
    make = f"import setuptools.build_meta as b; b.build_sdist({str(folder)!r}); b.build_wheel({str(folder)!r})"
    subprocess.run([sys.executable, "-c", make], cwd=source, check=True, capture_output=True)
    return folder


def test_the_wheel_holds_all_that_runs_and_runs_alone(built: Path, tmp_path: Path) -> None:
    (wheel,) = built.glob("mirkle-*-py3-none-any.whl")
    with zipfile.ZipFile(wheel) as archive:
        names = set(archive.namelist())
        archive.extractall(tmp_path / "site")
    for file in (ROOT / "src" / "mirkle").rglob("*"):
        if file.is_file() and "__pycache__" not in file.parts:
            assert str(file.relative_to(ROOT / "src")) in names, file
    asked = "import mirkle, pathlib; print(pathlib.Path(mirkle.__file__).parent); print(mirkle.read('L4 60').corners[0].grade)"
    env = os.environ | {"PYTHONPATH": str(tmp_path / "site")}
    told = subprocess.run([sys.executable, "-c", asked], env=env, cwd=tmp_path, capture_output=True, text=True, check=True)
    assert told.stdout.split() == [str(tmp_path / "site" / "mirkle"), "4"]


def test_the_source_archive_is_whole(built: Path) -> None:
    (archive,) = built.glob("mirkle-*.tar.gz")
    with tarfile.open(archive) as tar:
        names = {n.partition("/")[2] for n in tar.getnames()}
    for wanted in ("tests/test_package.py", "docs/architecture.md", "Makefile", "tools/set_up.py", "requirements/run.txt", "LICENSE"):
        assert wanted in names


@pytest.mark.parametrize("folder", ["a folder", 'quo"te', "dollar$", "back\\slash", "per%cent"])
def test_the_menu_entry_leads_to_the_program_wherever_it_lies(folder: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Read back as the Desktop Entry Specification says: backslashes of the string, then those within the quotes."""
    program = tmp_path / folder / "mirkle"
    program.parent.mkdir()
    program.write_text("")
    monkeypatch.setattr(desktop.sys, "executable", str(program.with_name("python")))
    assert main(["desktop"]) == 0
    entry = configparser.ConfigParser(interpolation=None)
    entry.read(Path(os.environ["XDG_DATA_HOME"]) / desktop.PLACES["mirkle.desktop"])
    value = entry["Desktop Entry"]["Exec"].replace("\\\\", "\\")
    quoted, rest = value.rsplit('"', 1)
    assert rest == " open %F"
    plain, at = "", 1
    while at < len(quoted):
        at += quoted[at] == "\\"
        plain += quoted[at]
        at += 1
    assert plain.replace("%%", "%") == str(program)


def test_the_files_for_a_desktop_pass_its_own_validators() -> None:
    share = ROOT / "src" / "mirkle" / "share"
    checks = {
        "desktop-file-validate": [str(share / "mirkle.desktop")],
        "bash": ["-n", str(share / "mirkle.bash")],
        "zsh": ["-n", str(share / "mirkle.zsh")],
        "appstreamcli": ["validate", "--no-net", str(share / "mirkle.metainfo.xml")],
    }
    for program, arguments in checks.items():
        if shutil.which(program):
            told = subprocess.run([program, *arguments], capture_output=True, text=True, check=False)
            assert told.returncode == 0, told.stdout + told.stderr


def test_without_a_display_it_says_so(monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> None:
    for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
        monkeypatch.delenv(name, raising=False)
    assert main(["demo"]) == 2
    told = capsys.readouterr().err
    assert told.startswith("there is no display")
    assert told.count("\n") == 1


@pytest.fixture
def set_up() -> ModuleType:
    """The tool that makes the environment."""
    spec = importlib.util.spec_from_file_location("set_up", ROOT / "tools" / "set_up.py")
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


def test_what_set_up_leaves_out_is_imported_by_nobody(set_up: ModuleType, tmp_path: Path) -> None:
    """The suite runs with all of scipy; whoever only runs the program has less of it."""
    out = {name.replace("/", ".") for name in set_up.FOR_TESTS}
    for path in (ROOT / "src").rglob("*.py"):
        text = path.read_text()
        for node in ast.walk(ast.parse(text)) if "scipy" in text else ():
            names = [node.module] if isinstance(node, ast.ImportFrom) and node.module else []
            names += [f"{node.module}.{n.name}" for n in node.names] if isinstance(node, ast.ImportFrom) else []
            names += [n.name for n in node.names] if isinstance(node, ast.Import) else []
            assert not {".".join(name.split(".")[:2]) for name in names} & out, path
    for kept in ("scipy/linalg/one.py", "PyQt6/Qt6/lib/libQt6Widgets.so.6"):
        (tmp_path / kept).parent.mkdir(parents=True)
        (tmp_path / kept).touch()
    for gone in ("scipy/stats/one.py", "PyQt6/Qt6/qml/one.qml"):
        (tmp_path / gone).parent.mkdir(parents=True)
        (tmp_path / gone).touch()
    set_up.slim(tmp_path, set_up.UNUSED + set_up.FOR_TESTS)
    assert {str(p.relative_to(tmp_path)) for p in tmp_path.rglob("*") if p.is_file()} == {
        "scipy/linalg/one.py",
        "PyQt6/Qt6/lib/libQt6Widgets.so.6",
    }


def test_an_environment_that_is_not_whole_is_seen(set_up: ModuleType, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Killed half-way, moved, its Python exchanged, a file gone or cut: each is seen. A whole one is left alone."""
    venv = tmp_path / "here" / ".venv"
    monkeypatch.setattr(set_up, "VENV", venv)
    assert not set_up._recorded(), "there is none"
    subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(venv)], check=True)
    package = next(venv.glob("lib/python3*/site-packages")) / "slate.py"
    package.write_text("quarry = 1\n")
    record = {"locks": {}, "made_for": set_up._made_for(), "files": dict(set_up._files())}
    (venv / set_up.RECORD).write_text(json.dumps(record))

    def whole() -> bool:
        return set_up._whole(set_up._recorded())

    assert whole()
    package.write_text("")
    assert not whole(), "a file is cut"
    package.unlink()
    assert not whole(), "a file is gone"
    package.write_text("quarry = 1\n")
    assert whole()
    (venv / "pyvenv.cfg").rename(venv / "kept")
    assert not whole(), "it is no environment"
    (venv / "kept").rename(venv / "pyvenv.cfg")
    program = venv / "bin" / "python"
    target = program.readlink()
    program.unlink()
    program.symlink_to(tmp_path / "gone")
    assert not whole(), "no Python behind it"
    program.unlink()
    program.symlink_to(target)
    assert whole()
    (tmp_path / "here").rename(tmp_path / "there")
    monkeypatch.setattr(set_up, "VENV", tmp_path / "there" / ".venv")
    assert not whole(), "it was moved"


def test_what_was_installed_is_held_against_the_lock(set_up: ModuleType, tmp_path: Path) -> None:
    lock = tmp_path / "lock.txt"
    lock.write_text("slate-rock==1.2 \\\n    --hash=sha256:00\n    # via -r some.in\n")
    packages = tmp_path / "site-packages"
    info = packages / "slate_rock-1.2.dist-info"
    with pytest.raises(set_up.SetUpError, match="slate-rock missing"):
        set_up.check(packages, [lock])
    info.mkdir(parents=True)
    (packages / "slate.py").write_text("quarry = 1\n")
    (info / "RECORD").write_text("slate.py,sha256=00,11\nslate_rock-1.2.dist-info/RECORD,,\n")
    set_up.check(packages, [lock])
    (packages / "slate.py").write_text("quarry")
    with pytest.raises(set_up.SetUpError, match=r"slate\.py of slate_rock was not installed whole"):
        set_up.check(packages, [lock])
    info.rename(packages / "slate_rock-1.1.dist-info")
    (packages / "slate.py").write_text("quarry = 1\n")
    with pytest.raises(set_up.SetUpError, match="slate-rock missing"):
        set_up.check(packages, [lock])


@pytest.mark.parametrize("before", [True, False])
def test_without_a_network_set_up_says_one_sentence_and_keeps_what_works(before: bool, tmp_path: Path) -> None:
    """Nothing listens on the discard port: the index does not answer."""
    (tmp_path / "tools").mkdir()
    shutil.copytree(ROOT / "requirements", tmp_path / "requirements")
    shutil.copy(ROOT / "tools" / "set_up.py", tmp_path / "tools")
    if before:
        (tmp_path / ".venv").mkdir()
        (tmp_path / ".venv" / "kept").touch()
    index = "http://127.0.0.1:9/simple"
    env = os.environ | {"PIP_INDEX_URL": index, "PIP_CONFIG_FILE": os.devnull, "UV_DEFAULT_INDEX": index}
    ran = subprocess.run([sys.executable, "tools/set_up.py", "run"], cwd=tmp_path, env=env, capture_output=True, text=True, check=False)
    assert ran.returncode == 1
    assert ran.stderr.count("\n") == 1
    assert "Connect to a network" in ran.stderr
    assert [p.name for p in (tmp_path / ".venv").rglob("*")] == (["kept"] if before else [])


def test_system_packages_are_asked_for_once_and_only_where_they_are_needed(
    set_up: ModuleType, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(set_up.os, "geteuid", lambda: 1000)
    monkeypatch.setattr(set_up, "VENV", tmp_path)
    monkeypatch.setattr(set_up.shutil, "which", lambda name: None if name == "xvfb-run" else f"/usr/bin/{name}")
    monkeypatch.setattr(set_up, "_loads", lambda library: library != "libEGL.so.1")
    with pytest.raises(set_up.SetUpError, match="libegl1 xvfb"):
        set_up._system(["run"])
    monkeypatch.setattr(set_up, "_loads", lambda _library: True)
    set_up._system(["run"])
    with pytest.raises(set_up.SetUpError, match="xvfb"):
        set_up._system(["run", "test"])


@pytest.mark.parametrize(
    ("fetched", "installs", "used"), [(True, True, ["uv"]), (True, False, ["uv", "pip"]), (False, False, ["pip", "pip"])]
)
def test_where_the_quick_installer_is_not_to_be_had_pip_installs_the_same(
    fetched: bool, installs: bool, used: list[str], set_up: ModuleType, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """An index or a certificate may be known to pip's settings alone."""
    ran: list[list[str]] = []

    def run(arguments: list[str], **_: object) -> subprocess.CompletedProcess[bytes]:
        ran.append(arguments)
        return subprocess.CompletedProcess(arguments, 0 if installs or arguments[0] != str(tmp_path / "bin" / "uv") else 2)

    if fetched:
        (tmp_path / "bin").mkdir()
        (tmp_path / "bin" / "uv").touch()
    monkeypatch.setattr(set_up.subprocess, "run", run)
    set_up._add(tmp_path, "--require-hashes", "-r", "some.txt")
    assert ["uv" if "uv" in a[0] else Path(a[1]).name for a in ran] == used
    assert ran[-1][-3:] == ["--require-hashes", "-r", "some.txt"]
    assert all("--require-hashes" in a for a in ran)


def test_each_debian_gets_a_newer_package_that_names_what_it_bundles(
    set_up: ModuleType, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setitem(sys.modules, "set_up", set_up)
    spec = importlib.util.spec_from_file_location("deb", ROOT / "tools" / "deb.py")
    assert spec is not None
    assert spec.loader is not None
    deb = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(deb)
    of_12, of_13 = deb.version_for("3.11"), deb.version_for("3.13")
    assert of_12.endswith("+deb12")
    assert of_13 == of_12.replace("+deb12", "+deb13")
    info = tmp_path / "slate-1.2.dist-info"
    info.mkdir()
    (info / "METADATA").write_text("Metadata-Version: 2.1\nName: slate\nVersion: 1.2\nClassifier: License :: OSI Approved :: MIT License\n")
    (info / "LICENSE.txt").write_text("Permission is granted to quarry.\n")
    (info / "RECORD").write_text("slate-1.2.dist-info/LICENSE.txt,,\nslate-1.2.dist-info/METADATA,,\n")
    text = deb.copyright_of(tmp_path)
    assert text.index((ROOT / "LICENSE").read_text().strip()) < text.index("slate 1.2: MIT License")
    assert "Permission is granted to quarry." in text
    assert "Inter-LICENSE.txt" in text
