"""A run as FIT, the binary form of watches and small receivers."""

from __future__ import annotations

import io
import math
from datetime import datetime

from mirkle.core.recording.model import Recording
from mirkle.files.detect import UnusableFile
from mirkle.files.recordings.position_fixes import NONE, Fix, recording_of

# Half a turn is two to the thirty-first of its angles. # the format's own description of its positions
_DEGREES = 180.0 / 2.0**31


def looks_like_fit(content: bytes) -> bool:
    """Whether the bytes begin as such files do."""
    return len(content) > 12 and content[8:12] == b".FIT"


def parse_fit_run(content: bytes, *, name: str) -> Recording:
    """The records of the file that carry a position.

    Raises
    ------
    UnusableFile
    """
    import fitdecode

    fixes: list[Fix] = []
    placeless = 0
    try:
        with fitdecode.FitReader(
            io.BytesIO(content), check_crc=fitdecode.CrcCheck.DISABLED, error_handling=fitdecode.ErrorHandling.IGNORE
        ) as frames:
            for frame in frames:
                if not isinstance(frame, fitdecode.FitDataMessage) or frame.name != "record":
                    continue
                values = {f.name: f.value for f in frame.fields}
                lat, lon, at = values.get("position_lat"), values.get("position_long"), values.get("timestamp")
                if lat is None or lon is None or not isinstance(at, datetime):
                    placeless += 1
                    continue
                alt = values.get("enhanced_altitude", values.get("altitude"))
                speed = values.get("enhanced_speed", values.get("speed"))
                fixes.append(
                    Fix(
                        at.timestamp(),
                        lat * _DEGREES,
                        lon * _DEGREES,
                        _known(alt),
                        _known(speed),
                        hacc_m=_known(values.get("gps_accuracy")),
                    )
                )
    except Exception:  # the library raises whatever its parsers raise
        if len(fixes) < 20:
            raise UnusableFile("the recording is damaged", mend="copy it again", where=name) from None
    return recording_of(fixes, name=name, what="a watch's activity", placeless=placeless)


def _known(value: object) -> float:
    return float(value) if isinstance(value, int | float) and math.isfinite(value) else NONE
