"""Cells as people and programs write them: numbers with their thousands apart, units behind them, degrees with minutes and letters."""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np

from mirkle.core.recording.model import Floats

# Cells in which nothing was measured.
EMPTY = frozenset(
    (
        "",
        "nan",
        "na",
        "n/a",
        "n.a.",
        "#n/a",
        "#na",
        "null",
        "none",
        "nil",
        "-",
        "--",
        "---",
        "—",
        "–",
        "inf",
        "-inf",
        "void",
        "invalid",
        "no fix",
        "nofix",
        "no_fix",
        "no data",
        "nodata",
        "missing",
        "?",
    )
)
# A number of more digits than any instrument has is none: it is read by its head.
MOST_DIGITS = 400
# No number with its unit, and no place, is longer.
LONGEST_CELL = 60
_SIGNS = str.maketrans({"−": "-", "–": "-", "‐": "-", "＋": "+", "\u202f": " ", "\xa0": " ", "\u2009": " ", "’": "'"})
_GROUPED = {
    # Thousands apart by one sign, with the other one before the decimals.
    ",": re.compile(r"[+-]?\d{1,3}(?:,\d{3})+(?:\.\d*)?"),
    ".": re.compile(r"[+-]?\d{1,3}(?:\.\d{3})+(?:,\d*)?"),
    " ": re.compile(r"[+-]?\d{1,3}(?: \d{3})+(?:[.,]\d*)?"),
    "'": re.compile(r"[+-]?\d{1,3}(?:'\d{3})+(?:[.,]\d*)?"),
}
_WITH_UNIT = re.compile(r"([+-]?[\d.,']+(?:[eE][+-]?\d+)?)\s*([^\d\s.,+\-'][^\d]{0,12})")
_LETTERS = {"N": 1.0, "S": -1.0, "E": 1.0, "W": -1.0, "O": 1.0}
# Degrees, and minutes and seconds behind them where they stand there, each with its sign.
_ANGLE = re.compile(
    r"([NSEWO])?\s*([+-]?)(\d{1,9}(?:[.,]\d{1,15})?)\s*(?:[°ºd]|deg)?\s*"
    r"(?:(\d{1,2}(?:[.,]\d{1,15})?)\s*['′m]?\s*(?:(\d{1,2}(?:[.,]\d{1,15})?)\s*(?:[\"″s]|'')?)?)?\s*([NSEWO])?",
    re.IGNORECASE,
)
_TWO_NUMBERS = re.compile(r"\s*\(?\s*([+-]?\d{1,3}\.\d{3,})\s*°?\s*[,; /]\s*([+-]?\d{1,3}\.\d{3,})\s*°?\s*\)?\s*")
# A latitude and a longitude with their letters, both in front or both behind.
_TWO_LETTERED = re.compile(r"\s*([NS][^NSEWO]+?|[^NSEWO]+[NS])\s*[,;/]?\s*([EWO][^NSEWO]+|[^NSEWO]+[EWO])\s*", re.IGNORECASE)


def number_of(cell: str, decimal: str) -> float:
    """A cell as a number, nan where it is empty.

    Raises
    ------
    ValueError
        It is no number.
    """
    text = cell.strip()
    if text.lower() in EMPTY:
        return float("nan")
    if not text.isascii():
        text = text.translate(_SIGNS)
    if decimal == "," or ("," in text and "." not in text):
        text = text.replace(",", ".")
    return float(text[:MOST_DIGITS])


def numbers_of(cells: Sequence[str], decimal: str) -> tuple[Floats, str]:
    """A column's cells as numbers, (n,), nan where one is empty, and the unit that stands behind them, empty where none does.

    Raises
    ------
    NoNumber
        One is no number.
    """
    try:
        return np.array([number_of(c, decimal) for c in cells], dtype=float), ""
    except ValueError:
        pass
    cells = [c.strip().translate(_SIGNS) for c in cells]
    group = _group_of(cells)
    units: dict[str, int] = {}
    out = np.full(len(cells), np.nan)
    for i, cell in enumerate(cells):
        if len(cell) <= LONGEST_CELL and (parted := _WITH_UNIT.fullmatch(cell)) is not None and cell.lower() not in EMPTY:
            cell, unit = parted[1], parted[2].strip()
            units[unit] = units.get(unit, 0) + 1
        if group and _GROUPED[group].fullmatch(cell):
            cell = cell.replace(group, "")
        try:
            out[i] = number_of(cell, decimal)
        except ValueError:
            raise NoNumber(i) from None
    return out, max(units, key=lambda u: units[u], default="")


class NoNumber(ValueError):
    """A cell that is no number; ``row`` counts from 0."""

    def __init__(self, row: int) -> None:
        super().__init__(row)
        self.row = row


def _group_of(cells: Sequence[str]) -> str:
    """The sign that keeps a column's thousands apart; empty where there is none. One comma or point alone is a decimal sign."""
    for sign, pattern in _GROUPED.items():
        surely = (c for c in cells if pattern.fullmatch(c) and (sign in " '" or c.count(sign) > 1 or ("." in c and "," in c)))
        if next(surely, None) is not None:
            return sign
    return ""


def is_angle(cell: str) -> bool:
    """Whether a cell is a latitude or longitude that is more than a number: with a letter, or with minutes."""
    text = cell.strip()
    return 0 < len(text) <= LONGEST_CELL and any(c in "NSEWOnsewo°º'′\"″d" for c in text) and angle_of(text) is not None


def angle_of(cell: str) -> float | None:
    """A latitude or longitude in degrees, negative to the south and west, as it is written with degrees, minutes, seconds and letters;
    ``None`` where it is none. A number without a sign behind it stays what it is: it may be degrees and minutes in one (ddmm.mmm)."""
    text = cell.strip().translate(_SIGNS)
    found = _ANGLE.fullmatch(text) if len(text) <= LONGEST_CELL else None
    if found is None:
        return None
    degrees, minutes, seconds = (float((found[n] or "0").replace(",", ".")) for n in (3, 4, 5))
    letter = (found[1] or found[6] or "").upper()
    if minutes > 60.0 or seconds > 60.0 or (found[1] and found[6]):
        return None
    value = degrees + minutes / 60.0 + seconds / 3600.0
    return value * _LETTERS.get(letter, 1.0) * (-1.0 if found[2] == "-" else 1.0)


def two_of(cell: str) -> tuple[float, float] | None:
    """Latitude and longitude in one cell, ``None`` where it holds no two such numbers."""
    if len(cell) > LONGEST_CELL:
        return None
    found = _TWO_NUMBERS.fullmatch(cell)
    if found is not None:
        return float(found[1]), float(found[2])
    lettered = _TWO_LETTERED.fullmatch(cell)
    if lettered is None:
        return None
    lat, lon = angle_of(lettered[1]), angle_of(lettered[2])
    return (lat, lon) if lat is not None and lon is not None else None


def hemisphere_of(cells: Sequence[str]) -> tuple[str, Floats] | None:
    """What a column of letters says: ``lat`` or ``lon``, and the sign of each row, (n,); ``None`` where it holds anything else."""
    letters = [c.strip().upper() for c in cells]
    said = {letter for letter in letters if letter}
    for name, known in (("lat", {"N", "S"}), ("lon", {"E", "W", "O"})):
        if said and said <= known:
            return name, np.array([_LETTERS.get(letter, 1.0) for letter in letters])
    return None


def out_of_ddmm(degrees: Floats, most: float) -> Floats | None:
    """Degrees of numbers that hold degrees and minutes in one, such as 4412.345; ``None`` where they hold something else.

    Parameters
    ----------
    degrees : (n,)
    most : 90 for latitudes, 180 for longitudes
    """
    size = np.abs(degrees[np.isfinite(degrees)])
    # One wild value says nothing of the others.
    if not len(size) or np.median(size) <= most or np.percentile(size, 99) >= 100.0 * most + 60.0:
        return None
    return out_of_ddmm_at_any_size(degrees) if np.mean(size % 100.0 < 60.0) > MOSTLY else None


# A share that a slip or two don't change.
MOSTLY = 0.99


def out_of_ddmm_at_any_size(degrees: Floats) -> Floats:
    """Degrees of numbers that hold degrees and minutes in one, (n,)."""
    whole = np.floor(np.abs(degrees) / 100.0)
    return np.asarray(np.sign(degrees) * (whole + (np.abs(degrees) - 100.0 * whole) / 60.0))
