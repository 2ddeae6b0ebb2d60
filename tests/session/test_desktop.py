"""Menu entry, icon, file type, manual page; recent stages."""

import configparser
import os
import re
from pathlib import Path

import pytest
from lxml import etree

from mirkle.cli import _parser, main
from mirkle.files.project.project import APPLICATION_ID, Project
from mirkle.session import demo, recent_stages, settings
from mirkle.session.desktop import PLACES
from mirkle.session.desktop_recent import BOOKMARK


def test_everything_is_put_where_a_desktop_looks(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["desktop"]) == 0
    home = Path(os.environ["XDG_DATA_HOME"])
    assert capsys.readouterr().out.splitlines() == [str(home / place) for place in PLACES.values()]
    entry = configparser.ConfigParser(interpolation=None)
    entry.optionxform = str  # type: ignore[assignment,method-assign]
    entry.read(home / PLACES["mirkle.desktop"])
    program, command, file = entry["Desktop Entry"]["Exec"].rsplit(" ", 2)
    assert Path(program.strip('"')).name == "mirkle"
    assert (command, file) == ("open", "%F")
    kinds = etree.fromstring((home / PLACES["mirkle.xml"]).read_bytes())
    space = "{http://www.freedesktop.org/standards/shared-mime-info}"
    types = entry["Desktop Entry"]["MimeType"].rstrip(";").split(";")
    assert {"text/csv", "application/gpx+xml", "text/vtt", "text/plain"} < set(types)
    assert types[0] == kinds.find(f"{space}mime-type").get("type")
    assert etree.fromstring((home / PLACES["mirkle.svg"]).read_bytes()).get("width") == "128"


def test_what_was_put_there_is_taken_away_and_nothing_else(capsys: pytest.CaptureFixture[str]) -> None:
    home = Path(os.environ["XDG_DATA_HOME"])
    assert main(["desktop", "--remove"]) == 0
    assert capsys.readouterr().out == ""
    assert main(["desktop"]) == 0
    placed = {home / place for place in PLACES.values()}
    others = [path.with_name(f"other-{path.name}") for path in placed]
    for other in others:
        other.write_text("")
    capsys.readouterr()
    assert main(["desktop", "--remove"]) == 0
    assert {Path(line) for line in capsys.readouterr().out.splitlines()} == placed
    assert not any(path.exists() for path in placed)
    assert all(other.exists() for other in others)


def test_completion_offers_every_command_and_option() -> None:
    from importlib import resources

    offered = (resources.files("mirkle") / "share" / "mirkle.bash").read_text()
    commands = _parser()._subparsers._group_actions[0].choices  # type: ignore[union-attr]
    for name, command in commands.items():
        options = {o for a in command._actions for o in a.option_strings if o.startswith("--")}
        branch = re.search(rf'^ +{name}\) local options="(.*)" ;;$', offered, re.M)
        assert name in offered.split('commands="')[1].split('"')[0].split()
        assert set(branch[1].split() if branch else ["--help"]) == options, name
    # In zsh's, options that several commands share stand in arrays.
    zsh = (resources.files("mirkle") / "share" / "mirkle.zsh").read_text()
    shared = {f"${name}": set(re.findall(r"--[\w-]+", body)) for name, body in re.findall(r"local -a (\w+)=\((.*)\)$", zsh, re.M)}
    for name, command in commands.items():
        options = {o for a in command._actions for o in a.option_strings if o.startswith("--")}
        branch = re.search(rf"^ +{name}\) _arguments (.*) ;;$", zsh, re.M)
        used = branch[1] if branch else "$every"
        offers = set(re.findall(r"--[\w-]+", used)).union(*(shared[a] for a in re.findall(r"\$\w+", used)))
        assert re.search(rf"^ +'{name}:", zsh, re.M)
        assert offers == options, name


def test_the_file_type_knows_a_stage_by_its_bytes() -> None:
    """The application id lies at byte 68 of an SQLite file (sqlite.org, Database File Format)."""
    project = demo.demo_project()
    project.close()
    head = project.path.read_bytes()[:72]
    assert head.startswith(b"SQLite format 3")
    assert int.from_bytes(head[68:72], "big") == APPLICATION_ID


def test_a_place_that_cant_be_written_is_said(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "file"))
    assert main(["desktop"]) == 2


def test_the_manual_names_every_command_and_option() -> None:
    from importlib import resources

    page = (resources.files("mirkle") / "share" / "mirkle.1").read_text().replace("\\-", "-")
    parser = _parser()
    commands = parser._subparsers._group_actions[0].choices  # type: ignore[union-attr]
    for name, command in commands.items():
        assert re.search(rf"^\.B (mirkle )?{name}$", page, re.M), name
        for option in (o for a in command._actions for o in a.option_strings if o.startswith("--") and o != "--help"):
            assert option in page, option


def test_recent_stages_are_the_latest_first_and_only_those_still_there(tmp_path: Path) -> None:
    assert recent_stages.recent() == []
    made = []
    for i in range(recent_stages.MOST_RECENT + 2):
        project = Project.create(tmp_path / f"s{i}.mirkle", [], name=f"s{i}")
        project.close()
        recent_stages.remember(project.path)
        made.append(project.path)
    recent_stages.remember(made[4])
    assert recent_stages.recent()[:2] == [made[4], made[-1]]
    assert len(recent_stages.recent()) == recent_stages.MOST_RECENT
    made[-1].unlink()
    assert made[-1] not in recent_stages.recent()
    settings.keep_setting("recent", "nonsense")
    assert recent_stages.recent() == []


def test_the_desktops_own_list_gets_a_stage_and_keeps_what_is_there(tmp_path: Path) -> None:
    listed = Path(os.environ["XDG_DATA_HOME"]) / "recently-used.xbel"
    listed.parent.mkdir(parents=True, exist_ok=True)
    listed.write_text(
        '<?xml version="1.0"?><xbel version="1.0" xmlns:bookmark="http://www.freedesktop.org/standards/desktop-bookmarks">'
        '<bookmark href="file:///plan.odt" added="2026-01-01T00:00:00Z"><info><metadata owner="http://freedesktop.org">'
        "<bookmark:private/></metadata></info></bookmark><!-- kept --></xbel>"
    )
    stage = tmp_path / "Slate hook.mirkle"
    stage.write_bytes(b"")
    recent_stages.remember(stage)
    recent_stages.remember(stage)
    root = etree.parse(str(listed)).getroot()
    assert [b.get("href") for b in root.iterchildren("bookmark")] == ["file:///plan.odt", stage.as_uri()]
    assert b"<!-- kept -->" in listed.read_bytes()
    assert root.find(f"bookmark//{{{BOOKMARK}}}private") is not None
    ours = root[-1].find(f".//{{{BOOKMARK}}}application")
    assert (ours.get("name"), ours.get("count")) == ("Mirkle", "2")
    assert "x-mirkle" in etree.tostring(root[-1]).decode()
    recent_stages.forget(stage)
    assert [b.get("href") for b in etree.parse(str(listed)).getroot().iterchildren("bookmark")] == ["file:///plan.odt"]


def test_a_list_of_the_desktop_that_cant_be_read_is_left_alone(tmp_path: Path) -> None:
    listed = Path(os.environ["XDG_DATA_HOME"]) / "recently-used.xbel"
    listed.parent.mkdir(parents=True, exist_ok=True)
    for harmed in (b"<xbel><bookmark", b"<other/>", b""):
        listed.write_bytes(harmed)
        recent_stages.remember(tmp_path / "stage.mirkle")
        recent_stages.forget(tmp_path / "stage.mirkle")
        assert listed.read_bytes() == harmed
