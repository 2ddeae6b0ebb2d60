"""A run recording as NMEA 0183: RMC and GLL (time, place, speed, course), GGA and GNS (height, quality) and VTG (speed, course).

Sentences are found anywhere in a line, behind time stamps and tags and among a receiver's binary messages, and of any talker.
"""

from __future__ import annotations

import re
from datetime import UTC, date, datetime, time, timedelta

import numpy as np

from mirkle.core.constants import KMH_PER_MPS
from mirkle.core.messages import Message, counted, message
from mirkle.core.recording.model import Channel, Recording
from mirkle.files.detect import UnusableFile

KNOT_MPS = 1852.0 / 3600.0
# A fix of unknown quality is good to a few metres times its dilution.
METRES_A_DILUTION = 2.0
_KINDS = b"RMC|GGA|GNS|GLL|VTG"
_SENTENCE = re.compile(rb"\$[A-Z]{2}(?:" + _KINDS + rb"),[ -#%-~]{4,90}")
_BEGUN = re.compile(rb"\$[A-Z]{2}(?:" + _KINDS + rb"),")
# What else receivers say tells a log as well.
_ANY = re.compile(rb"\$[A-Z]{2}(?:" + _KINDS + rb"|GSA|GSV|ZDA|GST|GBS),")
# How far into a file sentences are looked for: a receiver may send its own messages for a while first.
LOOK_BYTES, LEAST_SENTENCES = 200_000, 4


def looks_like_nmea(content: bytes) -> bool:
    """Whether there are sentences of NMEA 0183 in some bytes."""
    return any(n >= LEAST_SENTENCES for n, _ in enumerate(_ANY.finditer(content[:LOOK_BYTES]), start=1))


def parse_nmea_run(content: bytes, *, name: str) -> Recording:
    """The recording in a log of sentences; times are seconds from its first fix. Broken sentences are skipped and counted.

    Raises
    ------
    UnusableFile
        There are too few fixes in it.
    """
    import pynmea2

    log = _Log()
    broken = unchecked = 0
    found = [_SENTENCE.match(content, begun.start()) for begun in _BEGUN.finditer(content)]
    texts = [m[0].decode("ascii").rstrip() if m is not None else "" for m in found]
    # Where a receiver writes checksums, a sentence without one was cut.
    checks = sum("*" in text for text in texts) > len(texts) / 2
    for text in texts:
        whole, star, check = text.partition("*")
        if checks and not star:
            broken += 1
            continue
        # Behind the checksum another program may have written on.
        text = f"{whole}*{check[:2]}" if star else whole
        try:
            log.take(pynmea2.parse(text, check=checks))
            unchecked += not checks
        except (pynmea2.ParseError, ValueError, TypeError, AttributeError, IndexError):
            broken += 1
    if len(log.fixes) < 20:
        raise UnusableFile(
            message("this is a receiver's log with only {0} fixes in it", len(log.fixes)),
            mend="export the whole run, with RMC or GGA sentences",
            where=name,
        )
    doubts: list[Message] = []
    if broken:
        doubts.append(counted("1 broken sentence was skipped.", "{0} broken sentences were skipped.", broken))
    if unchecked:
        doubts.append(
            counted(
                "1 sentence has no checksum: damage in it can't be seen.",
                "{0} sentences have no checksum: damage in them can't be seen.",
                unchecked,
            )
        )
    return Recording(name=name, channels=log.channels(), doubts=tuple(doubts))


class _Log:
    """Fixes by time of day, joined over midnight."""

    def __init__(self) -> None:
        self.fixes: dict[float, tuple[float, float]] = {}
        self.values: dict[str, dict[float, float]] = {"alt_m": {}, "speed_mps": {}, "course_rad": {}, "hacc_m": {}}
        self._now: float | None = None
        self._days = 0

    def take(self, sentence: object) -> None:
        kind = getattr(sentence, "sentence_type", "")
        if kind == "RMC" and getattr(sentence, "status", "") == "A":
            at = self._seconds(sentence)
            self._place(at, sentence)
            self._put("speed_mps", at, getattr(sentence, "spd_over_grnd", None), KNOT_MPS)
            self._put("course_rad", at, getattr(sentence, "true_course", None), np.pi / 180.0)
        elif kind == "GLL" and getattr(sentence, "status", "") == "A":
            self._place(self._seconds(sentence), sentence)
        elif (kind == "GGA" and int(getattr(sentence, "gps_qual", 0) or 0) > 0) or (
            kind == "GNS" and set(str(getattr(sentence, "mode_indicator", "N"))) != {"N"}
        ):
            at = self._seconds(sentence)
            self._place(at, sentence)
            self._put("alt_m", at, getattr(sentence, "altitude", None), 1.0)
            dilution = getattr(sentence, "horizontal_dil", None) or getattr(sentence, "hdop", None)
            self._put("hacc_m", at, dilution, METRES_A_DILUTION)
        elif kind == "VTG" and self._now is not None:
            self._put("speed_mps", self._now, getattr(sentence, "spd_over_grnd_kmph", None), 1 / KMH_PER_MPS)
            self._put("course_rad", self._now, getattr(sentence, "true_track", None), np.pi / 180.0)

    def _seconds(self, sentence: object) -> float:
        stamp: time = sentence.timestamp  # type: ignore[attr-defined]
        moment = datetime.combine(date(2000, 1, 1), stamp.replace(tzinfo=UTC)) + timedelta(days=self._days)
        at = moment.timestamp()
        if self._now is not None and at < self._now - 43_200:
            self._days += 1
            at += 86_400
        self._now = at
        return at

    def _place(self, at: float, sentence: object) -> None:
        if not (getattr(sentence, "lat", "") and getattr(sentence, "lon", "")):
            return
        lat, lon = float(sentence.latitude), float(sentence.longitude)  # type: ignore[attr-defined]
        self.fixes.setdefault(at, (np.radians(lat), np.radians(lon)))

    def _put(self, name: str, at: float, value: object, factor: float) -> None:
        if value not in (None, ""):
            self.values[name].setdefault(at, float(str(value)) * factor)

    def channels(self) -> dict[str, Channel]:
        """What was collected, by time."""
        first = min(self.fixes)
        at = np.array(list(self.fixes))
        place = np.array(list(self.fixes.values()))
        out = {"lat_rad": Channel(at - first, place[:, 0]), "lon_rad": Channel(at - first, place[:, 1])}
        for name, values in self.values.items():
            if len(values) >= 4:
                out[name] = Channel(np.array(list(values)) - first, np.array(list(values.values())))
        return out
