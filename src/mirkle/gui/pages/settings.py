"""The settings page. What is set here is kept; language and size of text hold from the next window on."""

from __future__ import annotations

from PyQt6.QtWidgets import QApplication, QDialog, QFormLayout, QHBoxLayout, QSpinBox, QVBoxLayout, QWidget

from mirkle.gui.controls import ChoiceBox, NumberBox, button, label, wrapped
from mirkle.gui.translation import LANGUAGES, tr
from mirkle.session import settings
from mirkle.session.paging import LINES_A_PAGE

SIZES_PERCENT = (100, 115, 130, 150, 200)
# The least room that the window works in.
LEAST_PX = (1024, 700)
USUAL_MIN = "service_min"
SIZE, THEME, LANGUAGE = "text_percent", "theme", "language"


class SettingsDialog(QDialog):
    """Language, theme, size of text, lines a page of the paper book, usual time of service.

    ``again`` is set where the window has to be made anew, ``theme`` is what was chosen.
    """

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Settings"))
        self.setMinimumWidth(560)
        self.again = False
        self.language, self.theme, self.text_size = ChoiceBox(), ChoiceBox(), ChoiceBox()
        self.lines, self.minutes = NumberBox(), NumberBox()
        self.language.addItem(tr("as on this computer") + "  ▾", None)
        for code, language in LANGUAGES.items():
            self.language.addItem(f"{language.name}  ▾", code)
        for key, words in (("paper", tr("light, for daylight")), ("night", tr("dark, for the night"))):
            self.theme.addItem(f"{words}  ▾", key)
        fitting = fitting_sizes()
        for percent in SIZES_PERCENT:
            if percent in fitting:
                self.text_size.addItem(f"{percent} %  ▾", percent)
        self.lines.setRange(0, 60)
        self.lines.setSpecialValueText(tr("pages as in the notes"))
        self.lines.setSuffix(tr(" lines a page"))
        self.minutes.setRange(1, 240)
        self.minutes.setSuffix(tr(" minutes"))
        for spin in (self.lines, self.minutes):
            spin.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        for box, name in ((self.language, LANGUAGE), (self.theme, THEME), (self.text_size, SIZE)):
            box.setCurrentIndex(max(box.findData(settings.setting(name, None)), 0))
        self.lines.setValue(number(LINES_A_PAGE, 0))
        self.minutes.setValue(number(USUAL_MIN, 25))
        form = QFormLayout()
        form.setVerticalSpacing(12)
        for words, widget in (
            (tr("Language"), self.language),
            (tr("Theme"), self.theme),
            (tr("Size of text"), self.text_size),
            (tr("Your paper book has"), self.lines),
            (tr("A service usually takes"), self.minutes),
        ):
            widget.setAccessibleName(words)
            form.addRow(label(words), widget)
        hint = wrapped(style="faint")
        if len(fitting) < len(SIZES_PERCENT):
            hint.setText(tr("Larger sizes need a larger screen: the window takes {0} by {1} points.", *LEAST_PX))
        column, row = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(32, 24, 32, 20)
        column.setSpacing(14)
        column.addWidget(label(tr("Settings"), "title"))
        column.addLayout(form)
        column.addWidget(hint)
        keep, back = button(tr("Keep these settings"), name="primary"), button(tr("Back"))
        keep.clicked.connect(self._keep)
        back.clicked.connect(self.reject)
        row.addStretch(1)
        row.addWidget(back)
        row.addWidget(keep)
        column.addLayout(row)

    def _keep(self) -> None:
        language, size = self.language.currentData(), self.text_size.currentData()
        self.again = (language, size) != (settings.setting(LANGUAGE, None), settings.setting(SIZE, SIZES_PERCENT[0]))
        for name, value in (
            (LANGUAGE, language),
            (THEME, self.theme.currentData()),
            (SIZE, size),
            (LINES_A_PAGE, self.lines.value()),
            (USUAL_MIN, self.minutes.value()),
        ):
            settings.keep_setting(name, value)
        self.accept()


def number(name: str, default: int) -> int:
    """A setting that is a whole number; its default where it is anything else."""
    kept = settings.setting(name, default)
    return kept if isinstance(kept, int) and not isinstance(kept, bool) else default


def fitting_sizes() -> list[int]:
    """The sizes of text, in percent, at which the window still fits the screen."""
    screen = QApplication.primaryScreen()
    if screen is None:
        return [SIZES_PERCENT[0]]
    # What the screen has at 100 %, whatever size is set now.
    room, now = screen.availableGeometry(), number(SIZE, SIZES_PERCENT[0]) / 100.0
    most = 100.0 * now * min(room.width() / LEAST_PX[0], room.height() / LEAST_PX[1])
    return [p for p in SIZES_PERCENT if p <= max(most, SIZES_PERCENT[0])]
