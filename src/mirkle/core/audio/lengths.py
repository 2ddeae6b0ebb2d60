"""How long a note takes to say: its syllables at this co-driver's rate."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.notes.grading import half_of
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Reading, Span
from mirkle.core.recording.model import Floats
from mirkle.core.stats import median_slope, robust_sd

# Speaking rate of a co-driver on a stage (syllables/s), and the time to begin and end a call (s). # common practice
USUAL_RATE_SYL_S, USUAL_EDGE_S = 5.5, 0.12
# Bounds of plausible speaking rates (syllables/s); standard deviation of ln(duration) between calls with equally many syllables.
SLOWEST_SYL_S, FASTEST_SYL_S = 3.0, 10.0
SPREAD = 0.16
_VOWELS = re.compile(r"[aeiouy]+")
_SILENT_E = re.compile(r"[^aeiouy]e$")


@dataclass(frozen=True)
class Rate:
    """How long ``syllables`` take: ``edge_s`` and then ``syl_s`` a second, give or take ``spread`` of it (a standard deviation of the
    log)."""

    syl_s: float = USUAL_RATE_SYL_S
    edge_s: float = USUAL_EDGE_S
    spread: float = SPREAD

    def seconds(self, syllables: Floats) -> Floats:
        """The usual duration, (n,) seconds."""
        return self.edge_s + syllables / self.syl_s


def syllables_of(reading: Reading, language: Language) -> Floats:
    """For each note how many syllables it has when it is said, whatever short-hand it is written in, (notes,)."""
    return np.array([max(_syllables(_spoken(reading, n.span, n.gap_span, language), language), 1) for n in reading.notes], float)


def _spoken(reading: Reading, span: Span, gap: Span | None, language: Language) -> list[str]:
    """The words of a note as they are said; what is not known is said as it stands."""
    out: list[str] = []
    for piece in reading.pieces:
        within = span.start <= piece.span.start < span.end
        if piece.kind != "remark" and (within or (gap is not None and gap.start <= piece.span.start < gap.end)):
            out += _said(piece.kind, piece.key, piece.text, language)
    return out


def _said(kind: str, key: str, text: str, language: Language) -> Sequence[str]:
    """The words with which a piece of a note is said."""
    figures = re.findall(r"\d+", text)
    if text.lower() in language.number_pieces or (not figures and len(text) > 3):
        return text.lower().split()
    if figures and kind in ("grade", "distance", "number", "unread"):
        forms = (language.number_forms.get(str(int(f)), (f,))[0] for f in figures)
        return [*" ".join(forms).split(), *(["plus"] if half_of(text) else [])]
    said = next((t.said[0] for t in language.terms if (t.kind, t.key) == (kind, key) and t.said), text.lower())
    return said.split()


def _syllables(words: Sequence[str], language: Language) -> int:
    """Groups of vowels: right for four words of five in either language, and where it errs it errs alike for all notes."""
    count = 0
    for word in words:
        bare = "".join(c for c in unicodedata.normalize("NFKD", word.lower()) if not unicodedata.combining(c))
        groups = len(_VOWELS.findall(bare))
        if language.code == "en" and groups > 1 and _SILENT_E.search(bare):
            groups -= 1
        count += max(groups, 1 if any(c.isalnum() for c in bare) else 0)
    return count


def rate_of(syllables: Floats, seconds: Floats, *, before: Rate) -> Rate:
    """This co-driver's rate from how long notes took; the one from ``before`` where too few tell.

    A line through duration over syllables, the median of all slopes (Theil-Sen), since some of the durations are of other notes.
    """
    known = np.isfinite(seconds) & (seconds > 0.1)
    syl, took = syllables[known], seconds[known]
    if len(took) < 12 or np.ptp(syl) < 3:
        return before
    slope = median_slope(syl, took, least_apart=2.0)
    assert slope is not None, "they span three syllables"
    slope = float(np.clip(slope, 1 / FASTEST_SYL_S, 1 / SLOWEST_SYL_S))
    edge = float(np.clip(np.median(took - slope * syl), 0.0, 0.5))
    spread = robust_sd(np.log(took / (edge + slope * syl)), 0.0)
    return Rate(1 / slope, edge, float(np.clip(spread, 0.1, 0.3)))
