"""The rally that is open, and how one is opened, begun and written for another computer."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING

from mirkle.core.errors import MirkleError
from mirkle.core.messages import message
from mirkle.core.progress import Progress
from mirkle.session.demo import demo_rally
from mirkle.session.rally import Rally, known_rallies, neighbour
from mirkle.session.rally_copies import CameBack, pack, take_folder, unpack
from mirkle.session.signal import Signal
from mirkle.session.stage_summary import keep_summary

if TYPE_CHECKING:
    from mirkle.session.workspace import Workspace


class Rallies:
    """``opened`` says that another rally is open, ``shown`` that its page is wanted."""

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace
        self.opened, self.shown = Signal(), Signal()
        self.rally: Rally | None = None

    def known(self) -> list[tuple[Path, str]]:
        """The rallies in the folder of stages with their names, the latest first."""
        return known_rallies()

    def open_last(self) -> bool:
        """Opens the rally that was open last; whether there is one."""
        known = known_rallies()
        if known:
            self.open(known[0][0])
        return self.rally is not None

    def open(self, path: Path) -> None:
        """Opens a rally."""
        self._take(lambda: Rally.open(path))

    def begin(self, name: str) -> None:
        """Begins a rally of a name."""
        self._take(lambda: Rally.create(name))

    def open_demo(self) -> None:
        """Opens the demo rally, made on the first call."""

        def show(path: Path) -> None:
            self.open(path)
            self.shown.emit()

        self._workspace.work.when_free(
            message("Show the demo rally"), lambda: self._workspace.work.start(lambda progress: demo_rally(datetime.now(), progress), show)
        )

    def merge_in(self, path: Path) -> None:
        """Merges what another computer made of a rally into what is here, and opens it; the stage that is open is put away first."""
        workspace = self._workspace

        def take(_progress: Progress) -> CameBack:
            return unpack(path) if path.suffix == ".zip" else take_folder(path.parent, path)

        def show(came: CameBack) -> None:
            self.open(came.rally)
            self.shown.emit()
            workspace.tell_after(came.words)

        def begin() -> None:
            workspace.opening.begin_anew()
            workspace.work.start(take, show)

        workspace.work.when_free(path.stem, begin, key=f"rally {path}")

    def _take(self, make: Callable[[], Rally]) -> None:
        try:
            self.rally = make()
        except MirkleError as fault:
            self._workspace.failed.emit(fault)
            return
        self.opened.emit()
        self._workspace.changed.emit()

    def neighbour(self, by: int) -> Path | None:
        """The next stage of the rally that has a file, or the one before; ``None`` where there is none."""
        if self.rally is None:
            return None
        return neighbour(self.rally, self._workspace.stage.project.path if self._workspace.stage is not None else None, by)

    def write(self, path: Path) -> None:
        """Writes the rally with all its stages as one file, for another computer."""
        rally, stage = self.rally, self._workspace.stage
        if rally is None:
            return
        if stage is not None:
            keep_summary(stage)
        written = message("Written: {0}", str(path))
        self._workspace.work.when_free(
            message("The rally as one file"),
            lambda: self._workspace.work.start(lambda _: pack(rally, path), lambda _: self._workspace.tell_after(written)),
        )
