"""The page that turns itself: the line to be called now stands large where the eye is, what comes next below it."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QFont, QFontMetricsF, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from mirkle.core.notebook.conditions import BAD
from mirkle.core.rehearsal.lines import Line
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr
from mirkle.session.rehearsal import Rehearsal

NOW_PX, NEXT_PX, OLD_PX, SMALL_PX, PAD_PX, DANGEROUS_PX = 44, 26, 20, 13, 22, 50
NEXT_LINES = 5
# The words of a condition take no more of the page than this.
MOST_OF_PAGE = 0.35
BAR_PX = 6
_WRAP = int(Qt.TextFlag.TextWordWrap)


class TurningPage(QWidget):
    """What was called stands above, small; now, large; then the next lines. A bar below the line to be called runs out when it is due."""

    def __init__(self, rehearsal: Rehearsal, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.rehearsal, self.theme = rehearsal, theme
        self.setObjectName("card")
        self.setMinimumSize(QSize(360, 300))
        self._bar = QRectF()
        self.show_line()

    def show_line(self) -> None:
        """Turns to the line that is to be called now, and says it to screen readers."""
        line = self._line(self.rehearsal.line)
        self.setAccessibleName(tr("The line to be called now"))
        self.setAccessibleDescription(line.text if line is not None else "")
        self.update()

    def show_time(self) -> None:
        """Moves the bar."""
        self.update(self._bar.toAlignedRect().adjusted(-2, -2, 2, 2))

    def _line(self, at: int) -> Line | None:
        lines = self.rehearsal.lines
        return lines[at] if 0 <= at < len(lines) else None

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(event.rect(), self.theme.colour("paper"))
        width, top = self.width() - 2.0 * PAD_PX, float(PAD_PX)
        at = self.rehearsal.line
        before = self._line(at - 1)
        if before is not None:
            self.draw_text(painter, before.text, font(NEXT_PX - 4, family="hand"), "faint", top, width)
        # Where the eye is: a third from the top, whatever stood above.
        top = max(self.height() * 0.2, top + 46.0)
        now = self._line(at)
        if now is not None:
            top = self._now(painter, now, top, width)
        for step in range(1, NEXT_LINES + 1):
            following = self._line(at + step)
            if following is None or top > self.height() - 40:
                break
            face = font(NEXT_PX, family="hand", bold=following.changed)
            mark = "≈ " if self.rehearsal.condition_of(at + step) is not None else ""
            top = self.draw_text(painter, mark + following.text, face, "pencil" if following.changed else "ink", top, width) + 6.0
        painter.end()

    def _now(self, painter: QPainter, line: Line, top: float, width: float) -> float:
        condition = self.rehearsal.condition_of(self.rehearsal.line)
        if condition is not None:
            # Larger than the note where it is dangerous, it is called first; a whole sentence has to leave room for the note.
            words, large = f"≈ {condition.words}", font(DANGEROUS_PX, bold=True)
            fits = QFontMetricsF(large).boundingRect(QRectF(0, 0, width, 4000), _WRAP, words).height() < MOST_OF_PAGE * self.height()
            face = large if condition.level == BAD and fits else font(NEXT_PX, bold=True)
            top = self.draw_text(painter, words, face, "span", top, width) + 4.0
        if line.old:
            struck = font(OLD_PX, family="hand")
            struck.setStrikeOut(True)
            top = self.draw_text(painter, line.old, struck, "faint", top, width)
        face = font(NOW_PX, family="hand", bold=True)
        end = self.draw_text(painter, line.text, face, "pencil" if line.changed else "ink", top, width)
        self._bar = QRectF(PAD_PX, end + 4.0, width, BAR_PX)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.theme.colour("rule"))
        painter.drawRect(self._bar)
        painter.setBrush(self.theme.colour("pencil"))
        painter.drawRect(QRectF(PAD_PX, end + 4.0, width * self._left(), BAR_PX))
        if line.changed:
            painter.setFont(font(SMALL_PX))
            painter.setPen(QPen(self.theme.colour("pencil")))
            painter.drawText(QRectF(PAD_PX, end + 14.0, width, 20), 0, tr("changed") if line.old else tr("new"))
        return end + 40.0

    def _left(self) -> float:
        """How much of three seconds there is until the line is due, 0 to 1."""
        r = self.rehearsal
        if not r.running:
            return 0.0
        due_s = float(r.pacing.due_s(r.pace)[r.line]) if r.line < len(r.lines) else 0.0
        return min(max((due_s - r.pacer.now_s) / 3.0, 0.0), 1.0)

    def draw_text(self, painter: QPainter, words: str, face: QFont, colour: str, top: float, width: float) -> float:
        """A text whole and wrapped; returns where it ends."""
        painter.setFont(face)
        painter.setPen(QPen(self.theme.colour(colour)))
        bounds = QFontMetricsF(face).boundingRect(QRectF(0, 0, width, 4000), _WRAP, words)
        painter.drawText(QRectF(PAD_PX, top, width, bounds.height() + 4), _WRAP, words)
        return top + bounds.height()
