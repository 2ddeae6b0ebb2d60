"""The pages of what is open: each is made when it is first gone to, so that a stage stands on the screen the sooner, and all are taken away
together when another is opened."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtWidgets import QStackedWidget, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.messages import message
from mirkle.gui.dialogs import show
from mirkle.gui.translation import tr_fault
from mirkle.session.playback_clock import sound_of

if TYPE_CHECKING:
    from mirkle.gui.pages.by_eye import WatchView
    from mirkle.gui.pages.compare import Compare
    from mirkle.gui.pages.followup import Passes
    from mirkle.gui.pages.lineup import LineUp
    from mirkle.gui.pages.notebook import NotebookPage
    from mirkle.gui.pages.rally import RallyPage
    from mirkle.gui.pages.rehearse import RehearseView
    from mirkle.gui.pages.typing import TypingView
    from mirkle.gui.theme import Theme
    from mirkle.gui.window import Window
    from mirkle.session.dictation import Utterance


class Pages:
    """Widgets by their pages' names, in a stack of which one is shown. A page is ``None`` where what it needs is not there."""

    def __init__(self, window: Window, stack: QStackedWidget) -> None:
        self._window, self._workspace, self._stack = window, window.workspace, stack
        self._made: dict[str, QWidget] = {}

    def page(self, name: str) -> QWidget | None:
        """The page of that name; Compare is by eye where nothing was measured."""
        pages: dict[str, Callable[[], QWidget | None]] = {
            "Rally": lambda: self.rally,
            "Gather": lambda: self._window.gather,
            "Line up": lambda: self.line_up,
            "By eye": lambda: self.watch,
            "Compare": lambda: self.compare or self.watch,
            "Book": lambda: self.book,
            "Rehearse": lambda: self.rehearse,
            "Passes": lambda: self.followed,
        }
        return pages[name]()

    def _get(self, name: str, make: Callable[[], Any]) -> Any:
        if name not in self._made:
            self._made[name] = make()
            self._stack.addWidget(self._made[name])
        return self._made[name]

    def set_theme(self, theme: Theme) -> None:
        """Paints every page that was made in another theme from now on."""
        for page in self._made.values():
            page.set_theme(theme)  # type: ignore[attr-defined]

    def leave(self, *names: str) -> None:
        """Takes some pages away, or all that belong to the stage: the rally and the typed book stay."""
        for name in names or [name for name in self._made if name not in ("Typing", "Rally")]:
            widget = self._made.pop(name, None)
            if widget is not None:
                self._stack.removeWidget(widget)
                widget.deleteLater()

    @property
    def rally(self) -> RallyPage | None:
        """The rally, where one is open."""
        return self._get("Rally", self._make_rally) if self._workspace.rally is not None else None

    def _make_rally(self) -> RallyPage:
        from mirkle.gui.pages.rally import RallyPage

        assert self._workspace.rally is not None
        made = RallyPage(self._workspace.rally, self._window.theme)
        made.stage_wanted.connect(self._workspace.opening.open_project)
        made.itinerary_wanted.connect(lambda: show.type_itinerary(self._window))
        made.which_wanted.connect(lambda name: show.choose_stage(self._window, name))
        made.begin_wanted.connect(lambda name: show.begin_or_choose_stage(self._window, name))
        return made

    @property
    def compare(self) -> Compare | None:
        """Compare, where a recording was reviewed."""
        return self._get("Compare", self._make_compare) if self._workspace.reviewed is not None else None

    def _make_compare(self) -> Compare:
        from mirkle.gui.pages.compare import Compare

        assert self._workspace.reviewed is not None
        made = Compare(self._workspace.reviewed, self._window.theme)
        made.parts_wanted.connect(lambda dragged: show.set_parts(self._window, dragged))
        made.moved.connect(self._window.show_place_on_stage)
        return made

    @property
    def line_up(self) -> LineUp | None:
        """Line up, where a recording was reviewed."""
        return self._get("Line up", self._make_line_up) if self._workspace.reviewed is not None else None

    def _make_line_up(self) -> LineUp:
        from mirkle.gui.pages.lineup import LineUp

        assert self._workspace.reviewed is not None
        made = LineUp(self._workspace.reviewed, self._window.theme)
        made.clock_wanted.connect(self._workspace.set_clock)
        made.hear_wanted.connect(lambda sound_s: self.compare.play_from(sound_s) if self.compare is not None else None)
        made.heard_wanted.connect(self._workspace.solve_calls_again)
        made.opened.connect(lambda _: self._window.go_to("Compare"))
        return made

    @property
    def watch(self) -> WatchView | None:
        """The page on which the video is watched note by note, where there is one."""
        return self._get("By eye", self._make_watch) if self._workspace.has_video else None

    def _make_watch(self) -> WatchView:
        from mirkle.gui.pages.by_eye import WatchView

        assert self._workspace.stage is not None
        return WatchView(self._workspace.stage, self._window.theme, *self._video())

    def _video(self) -> tuple[Path | None, str]:
        """Where the video of the open pass lies, and what is wrong where it does not."""
        stage = self._workspace.stage
        try:
            return (sound_of(stage) if stage is not None and self._workspace.has_video else None), ""
        except MirkleError as fault:
            return None, tr_fault(fault)

    @property
    def book(self) -> NotebookPage | None:
        """Book, where a stage is open, or its book is there already."""
        return self._get("Book", self._make_book) if self._workspace.has_book else None

    def _make_book(self) -> NotebookPage:
        from mirkle.gui.pages.notebook import NotebookPage

        stage = self._workspace.with_book
        assert stage is not None
        return NotebookPage(stage, self._window.theme)

    @property
    def rehearse(self) -> RehearseView | None:
        """Rehearse, where a stage is open, or its book is there already."""
        return self._get("Rehearse", self._make_rehearse) if self._workspace.has_book else None

    def _make_rehearse(self) -> RehearseView:
        from mirkle.gui.pages.rehearse import RehearseView

        stage = self._workspace.with_book
        assert stage is not None
        made = RehearseView(stage, self._window.theme, self._video()[0])
        made.moved.connect(self._window.show_place_on_stage)
        return made

    @property
    def followed(self) -> Passes | None:
        """Passes, where a stage is open."""
        return self._get("Passes", self._make_followed) if self._workspace.stage is not None else None

    def _make_followed(self) -> Passes:
        from mirkle.gui.pages.followup import Passes

        made = Passes(self._window.theme)
        made.looked_at.connect(self._workspace.look_at)
        return made

    @property
    def typing(self) -> TypingView | None:
        """The page on which a paper book is typed in, where somebody has begun."""
        return self._made.get("Typing")  # type: ignore[return-value]

    def begin_typing(self) -> TypingView:
        """That page, made if it is not there yet."""
        typing: TypingView = self._get("Typing", self._make_typing)
        return typing

    def _make_typing(self) -> TypingView:
        from mirkle.gui.pages.typing import TypingView

        made = TypingView(self._window.theme)
        made.finished.connect(self._take_typed)
        made.given_up.connect(lambda: self._window.go_to("Gather"))
        made.sound_given.connect(self._find_dictated)
        return made

    def _find_dictated(self, path: Path) -> None:
        """Looks for the calls of a dictated sound; whoever writes them down goes on typing meanwhile."""
        from mirkle.session.dictation import utterances_in

        def show(calls: list[Utterance]) -> None:
            if self.typing is not None:
                self.typing.show_calls(path, calls)

        work = self._workspace.work
        work.when_free(message("Find the calls in the sound"), lambda: work.start(lambda progress: utterances_in(path, progress), show))

    def _take_typed(self, text: str) -> None:
        """Makes a stage of what was typed; the page goes when its file holds the book, unless more was typed meanwhile."""

        def kept() -> None:
            if self.typing is not None and self.typing.text == text:
                self.leave("Typing")

        self._workspace.opening.take_typed(text, kept)
