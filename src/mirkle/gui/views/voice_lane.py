"""The voice in the sound along the road: where there is one, and each call as a block."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QPainter, QPen

from mirkle.gui.theme import Theme
from mirkle.session.listening import heard_of
from mirkle.session.playback_clock import place_m
from mirkle.session.reviewed_pass import ReviewedPass

# Where it is drawn, from the left, how far a sure voice reaches, and how wide a call is.
VOICE_PX, SURE_PX, BLOCK_PX = 48, 6, 7
# Less sure than this it is no voice.
LEAST_SURE = 0.2


class VoiceLane:
    """Empty where no sound was listened to, or nobody knows how its clock goes against the recording's."""

    def __init__(self, stage: ReviewedPass) -> None:
        self._stage, review = stage, stage.review
        self._heard = heard_of(stage) if review.clock is not None else None
        self._at_m = np.zeros(0)
        if self._heard is not None and review.clock is not None:
            at_s = (np.arange(len(self._heard.sure)) + 0.5) * self._heard.frame_s
            begin_s, second_s = review.clock.run_s(0.0), review.clock.run_s(1.0) - review.clock.run_s(0.0)
            self._at_m = np.interp(begin_s + at_s * second_s, review.profile.time_s, review.profile.distance_m)

    @property
    def is_there(self) -> bool:
        """Whether there is anything to show."""
        return self._heard is not None

    def paint(self, painter: QPainter, theme: Theme, y_of: Callable[[float], float], shown_m: tuple[float, float]) -> None:
        """Paints the part between two places, each ``y_of`` pixels down: a call solid where it is sure, hatched where not."""
        if self._heard is None:
            return
        first, last = np.searchsorted(self._at_m, shown_m)
        painter.setPen(QPen(theme.colour("rule"), 1))
        for m, sure in zip(self._at_m[first:last], self._heard.sure[first:last], strict=True):
            if sure > LEAST_SURE:
                painter.drawLine(QPointF(VOICE_PX, y_of(m)), QPointF(VOICE_PX + SURE_PX * sure, y_of(m)))
        for call in self._heard.listening.calls:
            if not call.was_heard:
                continue
            begin_m, end_m = place_m(self._stage, call.from_s), place_m(self._stage, call.to_s)
            if end_m > shown_m[0] and begin_m < shown_m[1]:
                top = y_of(begin_m)
                pattern = Qt.BrushStyle.SolidPattern if self._heard.is_sure(call) else Qt.BrushStyle.BDiagPattern
                painter.setBrush(QBrush(theme.colour("pencil"), pattern))
                painter.setPen(QPen(theme.colour("pencil"), 1))
                painter.drawRect(QRectF(VOICE_PX - BLOCK_PX - 1, top, BLOCK_PX, max(y_of(end_m) - top, BLOCK_PX)))
