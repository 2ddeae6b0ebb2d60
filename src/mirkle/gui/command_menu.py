"""The menu of the window: every command with its key, grey with a reason where it can't be done now."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QMenu

from mirkle.gui.commands import COMMANDS, Command
from mirkle.gui.translation import tr

if TYPE_CHECKING:
    from mirkle.gui.window import Window


class CommandMenu(QMenu):
    """The commands by their group; ``actions_by_name`` those of the menu."""

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self._window = window
        self.actions_by_name: dict[str, QAction] = {}

    def fill(self, use: Callable[[Command], None]) -> None:
        """Puts all commands in; those of the window are done by their keys wherever one is."""
        menus: dict[str, QMenu] = {}
        for command in (c for c in COMMANDS if c.in_menu):
            if command.group not in menus:
                menus[command.group] = self.addMenu(tr(command.group))  # type: ignore[assignment]
                menus[command.group].setToolTipsVisible(True)
            action = QAction(tr(command.name), self._window)
            if command.place == "window" and command.keys:
                action.setShortcuts([QKeySequence(key) for key in command.keys])
                self._window.addAction(action)
            elif command.keys:
                # The key is the page's: it is shown here, and pressed there.
                action.setText(f"{tr(command.name)}\t{command.shown_keys}")
            action.triggered.connect(lambda _=False, c=command: use(c))
            menus[command.group].addAction(action)
            self.actions_by_name[command.name] = action

    def refresh(self) -> dict[str, str]:
        """Takes in what can be done now; the hindrance of each command by its name, empty where there is none."""
        hindrances = {c.name: c.hindrance(self._window) for c in COMMANDS if c.in_menu}
        for name, hindrance in hindrances.items():
            self.actions_by_name[name].setEnabled(not hindrance)
            self.actions_by_name[name].setToolTip(tr(hindrance or name))
        return hindrances
