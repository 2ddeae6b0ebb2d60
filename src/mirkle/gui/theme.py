"""Colours and fonts: a light paper theme and a night theme, and the shipped type."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from importlib import resources

from PyQt6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PyQt6.QtWidgets import QApplication


@dataclass(frozen=True)
class Theme:
    """Colours as ``#rrggbb``; shapes carry the meaning, colours only help.

    ``danger`` is a danger and nothing else, ``open`` what is more open than called, ``span`` whatever else wants a look, and ``pencil``
    what the crew wrote or chose.
    """

    desk: str
    paper: str
    rule: str
    margin: str
    chosen: str
    ink: str
    faint: str
    road: str
    danger: str
    open: str
    span: str
    pencil: str
    field: str

    @cache  # noqa: B019  (there are two themes, and they live as long as the program)
    def colour(self, name: str, alpha: int = 255) -> QColor:
        """A colour of the theme for the painter."""
        colour = QColor(getattr(self, name))
        colour.setAlpha(alpha)
        return colour


PAPER = Theme(
    desk="#e9e1d1",
    paper="#f8f4ea",
    rule="#e2dac8",
    margin="#e6c9bd",
    chosen="#efe5c8",
    ink="#1f1d1a",
    faint="#635d52",
    road="#b5ab95",
    danger="#a2321a",
    open="#14635a",
    span="#80530e",
    pencil="#3f3fa3",
    field="#fffdf7",
)
NIGHT = Theme(
    desk="#14130f",
    paper="#1f1d18",
    rule="#34312a",
    margin="#54382f",
    chosen="#3a3420",
    ink="#ece5d4",
    faint="#a49c8a",
    road="#6d6653",
    danger="#f08467",
    open="#6cc7b8",
    span="#dca24a",
    pencil="#a9abff",
    field="#2a2721",
)

_ROLES = {
    QPalette.ColorRole.Window: "desk",
    QPalette.ColorRole.WindowText: "ink",
    QPalette.ColorRole.Base: "field",
    QPalette.ColorRole.AlternateBase: "paper",
    QPalette.ColorRole.Text: "ink",
    QPalette.ColorRole.Button: "paper",
    QPalette.ColorRole.ButtonText: "ink",
    QPalette.ColorRole.Highlight: "chosen",
    QPalette.ColorRole.HighlightedText: "ink",
    QPalette.ColorRole.ToolTipBase: "paper",
    QPalette.ColorRole.ToolTipText: "ink",
    QPalette.ColorRole.PlaceholderText: "faint",
    QPalette.ColorRole.Link: "pencil",
    QPalette.ColorRole.Mid: "rule",
    QPalette.ColorRole.Dark: "faint",
}
_FAMILIES = {"hand": "Andika", "plain": "Inter"}


def load_fonts() -> None:
    """Makes the shipped fonts known; none is taken from the machine."""
    folder = resources.files("mirkle.gui") / "fonts"
    for file in folder.iterdir():
        if file.name.endswith(".ttf"):
            QFontDatabase.addApplicationFontFromData(file.read_bytes())


def font(size_px: int, *, family: str = "plain", bold: bool = False, even: bool = True) -> QFont:
    """A shipped font at a size in pixels; ``family`` is ``plain`` or ``hand`` (the page). It is the caller's own: whoever strikes it out
    strikes out nobody else's text.

    ``even`` gives all figures one width, so that columns of distances stand under each other.
    """
    return QFont(_made(size_px, family, bold, even))


@cache
def _made(size_px: int, family: str, bold: bool, even: bool) -> QFont:
    made = QFont(_FAMILIES[family])
    made.setPixelSize(size_px)
    if bold:
        made.setWeight(QFont.Weight.DemiBold if family == "plain" else QFont.Weight.Bold)
    # A ligature is one glyph that a search in a printed card would not find.
    made.setFeature(QFont.Tag("liga"), 0)
    if even:
        made.setFeature(QFont.Tag("tnum"), 1)
    return made


def apply(app: QApplication, theme: Theme) -> None:
    """Puts fonts and colours on every ordinary widget."""
    app.setFont(font(14, even=False))
    # Dialogues of the system, ticks and scroll bars wear the same colours.
    palette = QPalette()
    for role, name in _ROLES.items():
        palette.setColor(role, theme.colour(name))
    palette.setColor(QPalette.ColorGroup.Disabled, QPalette.ColorRole.Text, theme.colour("faint"))
    palette.setColor(QPalette.ColorGroup.Disabled, QPalette.ColorRole.ButtonText, theme.colour("faint"))
    app.setPalette(palette)
    app.setStyleSheet(_sheet(theme))


def _sheet(t: Theme) -> str:
    return f"""
    QWidget {{ color: {t.ink}; }}
    QMainWindow, QDialog, #desk {{ background: {t.desk}; }}
    #card {{ background: {t.paper}; border: 1px solid {t.rule}; border-radius: 3px; }}
    #dropZone {{ border: none; }}
    #dropZone[empty="true"] {{ border: 2px dashed {t.faint}; border-radius: 8px; }}
    #header {{ background: {t.paper}; border-bottom: 1px solid {t.rule}; }}
    #stageName {{ font-size: 18px; font-weight: 600; }}
    #faint {{ color: {t.faint}; font-size: 13px; }}
    #title {{ font-size: 18px; font-weight: 600; }}
    #title[severity="danger"] {{ color: {t.danger}; }}
    #why {{ font-size: 14px; }}
    #fault {{ color: {t.span}; font-size: 13px; }}
    #misfit {{ background: {t.paper}; color: {t.span}; font-size: 18px; font-weight: 600; padding: 10px 18px; }}
    #readBack {{ color: {t.pencil}; font-size: 13px; }}
    QPushButton {{ background: {t.paper}; border: 1px solid {t.ink}; border-radius: 4px; padding: 7px 12px; }}
    QPushButton:hover {{ background: {t.chosen}; }}
    QPushButton:focus {{ border: 2px solid {t.pencil}; padding: 6px 11px; }}
    QPushButton:checked {{ background: {t.chosen}; }}
    QPushButton:disabled {{ color: {t.faint}; border-color: {t.rule}; }}
    QPushButton#place {{ border: none; border-bottom: 3px solid transparent; border-radius: 0; padding: 12px 6px 9px 6px;
        background: transparent; color: {t.ink}; font-size: 15px; }}
    QPushButton#place:disabled {{ color: {t.faint}; }}
    QPushButton#place:checked {{ border-bottom-color: {t.ink}; color: {t.ink}; font-weight: 600; }}
    QPushButton#place:focus {{ color: {t.pencil}; }}
    QMenu {{ background: {t.paper}; border: 1px solid {t.rule}; padding: 4px; }}
    QMenu::item {{ padding: 5px 26px 5px 14px; }}
    QMenu::item:selected {{ background: {t.chosen}; color: {t.ink}; }}
    QMenu::item:disabled {{ color: {t.faint}; }}
    QPushButton::menu-indicator {{ image: none; }}
    QPushButton#choice {{ border-color: {t.rule}; text-align: left; padding: 4px 10px; }}
    QPushButton#dangersLeft {{ color: {t.danger}; font-size: 13px; border: none; background: transparent; padding: 4px 2px; }}
    QPushButton#dangersLeft:focus {{ border: 2px solid {t.pencil}; padding: 2px 0; }}
    #status {{ background: {t.paper}; border-top: 1px solid {t.rule}; }}
    QPushButton#small {{ padding: 1px 8px; font-size: 13px; }}
    QPushButton#small:focus {{ padding: 0 7px; }}
    QPushButton#primary {{ background: {t.chosen}; font-weight: 600; }}
    QPlainTextEdit, QLineEdit {{ background: {t.field}; border: 2px solid {t.pencil}; border-radius: 2px;
        color: {t.pencil}; selection-background-color: {t.chosen}; selection-color: {t.ink}; padding: 2px; }}
    QLineEdit#quiet {{ border: 1px solid {t.rule}; color: {t.ink}; padding: 3px; }}
    QLineEdit#quiet:focus {{ border: 2px solid {t.pencil}; padding: 2px; }}
    QDoubleSpinBox, QSpinBox {{ background: {t.field}; border: 1px solid {t.rule}; border-radius: 3px; padding: 3px 6px; }}
    QDoubleSpinBox:focus, QSpinBox:focus {{ border: 2px solid {t.pencil}; padding: 2px 5px; }}
    QComboBox {{ background: {t.paper}; border: 1px solid {t.rule}; border-radius: 3px; padding: 3px 8px; font-size: 13px; }}
    QComboBox:focus {{ border: 2px solid {t.pencil}; padding: 2px 7px; }}
    QListWidget:focus, QScrollArea:focus, QTextBrowser:focus {{ border: 2px solid {t.pencil}; }}
    QComboBox::drop-down {{ border: none; width: 0; }}
    QComboBox QAbstractItemView {{ background: {t.paper}; color: {t.ink}; selection-background-color: {t.chosen};
        selection-color: {t.ink}; }}
    QPlainTextEdit#proofPage {{ border: 1px solid {t.rule}; color: {t.ink}; background: {t.paper}; }}
    QListWidget {{ background: {t.paper}; border: 1px solid {t.rule}; font-size: 14px; outline: 0; }}
    QListWidget#handList {{ font-family: {_FAMILIES["hand"]}; font-size: 18px; }}
    QListWidget::item {{ padding: 5px; }}
    QListWidget::item:selected {{ background: {t.chosen}; color: {t.ink}; }}
    QScrollBar:vertical {{ background: transparent; width: 10px; }}
    QScrollBar::handle:vertical {{ background: {t.rule}; border-radius: 4px; min-height: 30px; }}
    QScrollBar:horizontal {{ background: transparent; height: 10px; }}
    QScrollBar::handle:horizontal {{ background: {t.rule}; border-radius: 4px; min-width: 30px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; }}
    QToolTip {{ background: {t.paper}; color: {t.ink}; border: 1px solid {t.faint}; font-size: 13px; }}
    #sheet {{ border: 1px solid {t.faint}; background: #ffffff; }}
    QSplitter::handle {{ background: {t.desk}; }}
    QSplitter::handle:hover {{ background: {t.road}; }}
    QProgressBar {{ border: 1px solid {t.rule}; border-radius: 3px; background: {t.field}; height: 12px; text-align: center; }}
    QProgressBar::chunk {{ background: {t.road}; }}
    """
