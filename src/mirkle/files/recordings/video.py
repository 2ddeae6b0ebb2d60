"""Positions that a camera wrote into its video: a metadata track of the MP4, in either of the two layouts that are open.

One nests entries of key, type, size and count, big-endian, a second of samples to a packet (``DEVC``, ``STRM``, then ``GPS5`` or
``GPS9``, ``ACCL``, ``GYRO`` with their scale ``SCAL``). The other has one measurement to a packet, little-endian: two bytes of nothing,
a kind, its values. Both are told by the packets themselves. What is found becomes a table like any other, on the video's own clock.
"""

from __future__ import annotations

import struct
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from mirkle.core.recording.model import Floats

# Without a fix a camera writes places all the same; two dimensions are enough to be somewhere.
LEAST_FIX = 2
# Entries within entries, and samples in a packet, go no further in any camera.
MOST_NESTED = 6
_NUMBERS = {b"b": "i1", b"B": "u1", b"s": ">i2", b"S": ">u2", b"l": ">i4", b"L": ">u4", b"f": ">f4", b"d": ">f8"}
_Entry = tuple[bytes, bytes, int, int, bytes]


def positions_in(path: Path) -> bytes | None:
    """The positions in a video, and how the car turned, as a table of text; ``None`` where it holds none.

    Nothing but the metadata track is read from the file.
    """
    import av

    fixes: list[tuple[float, ...]] = []
    turning: list[Floats] = []
    pulled: list[Floats] = []
    try:
        with av.open(str(path), metadata_errors="ignore") as file:
            tracks = [s for s in file.streams if s.type == "data" and s.time_base is not None]
            if not tracks:
                return None
            for stream in file.streams:
                if stream not in tracks:
                    stream.discard = av.stream.Discard.all
            for packet in file.demux(tracks):
                if packet.size and packet.pts is not None:
                    base = float(packet.time_base)
                    from_s, lasts_s = packet.pts * base, (packet.duration or 0) * base
                    _take(bytes(packet), from_s, lasts_s, fixes, turning, pulled)
    except (av.FFmpegError, OSError, ValueError):
        return None
    if len(fixes) < 2:
        return None
    return _table(fixes, turning, pulled)


def _take(
    packet: bytes, from_s: float, lasts_s: float, fixes: list[tuple[float, ...]], turning: list[Floats], pulled: list[Floats]
) -> None:
    if packet.startswith(b"DEVC"):
        for stream in _streams(packet, MOST_NESTED):
            fixes += _fixes_of(stream, from_s, lasts_s)
            for key, into in ((b"GYRO", turning), (b"ACCL", pulled)):
                scaled = _scaled(stream, key)
                if scaled is not None and scaled.shape[1] >= 3:
                    into.append(np.column_stack([_spread(from_s, lasts_s, len(scaled)), scaled[:, :3]]))
    elif packet.startswith(b"\0\0") and len(packet) >= 4:
        kind = struct.unpack_from("<H", packet, 2)[0]
        if kind in (2, 3) and len(packet) >= 16:
            (turning if kind == 2 else pulled).append(np.array([[from_s, *struct.unpack_from("<3f", packet, 4)]]))
        elif kind == 5 and len(packet) >= 28:
            fixes.append((from_s, *struct.unpack_from("<3d", packet, 4), np.nan, np.nan))
        elif kind == 6 and len(packet) >= 60:
            _, fix, lat, lon, alt, hacc, _, east, north, _, _ = struct.unpack_from("<dIddfffffff", packet, 4)
            if fix >= LEAST_FIX:
                fixes.append((from_s, lat, lon, alt, float(np.hypot(east, north)), hacc))


def _entries(body: bytes) -> Iterator[_Entry]:
    """Key, type, size of one structure, count and bytes of each entry."""
    at = 0
    while at + 8 <= len(body):
        size, count = body[at + 5], struct.unpack_from(">H", body, at + 6)[0]
        yield body[at : at + 4], body[at + 4 : at + 5], size, count, body[at + 8 : at + 8 + size * count]
        at += 8 + -(-size * count // 4) * 4


def _streams(body: bytes, depth: int) -> Iterator[dict[bytes, _Entry]]:
    """The entries of every stream in a packet, by their key."""
    for entry in _entries(body):
        if entry[0] == b"STRM":
            yield {e[0]: e for e in _entries(entry[4])}
        elif entry[1] == b"\0" and depth:
            yield from _streams(entry[4], depth - 1)


def _values(entry: _Entry, kinds: bytes) -> Floats | None:
    """The numbers of an entry, (count, columns); ``kinds`` are the types within one structure."""
    _, kind, size, count, body = entry
    letters = kinds if kind == b"?" else kind * (size // max(np.dtype(_NUMBERS.get(kind, "V0")).itemsize, 1))
    if not letters or any(letters[i : i + 1] not in _NUMBERS for i in range(len(letters))):
        return None
    one = np.dtype([(str(i), _NUMBERS[letters[i : i + 1]]) for i in range(len(letters))])
    if one.itemsize != size or len(body) < size * count or not count:
        return None
    read = np.frombuffer(body, one, count)
    return np.column_stack([read[name].astype(float) for name in one.names or ()])


def _scaled(stream: dict[bytes, _Entry], key: bytes) -> Floats | None:
    """The values of a stream's samples, divided by their scale; ``None`` where it has none of them."""
    if key not in stream:
        return None
    raw = _values(stream[key], stream[b"TYPE"][4] if b"TYPE" in stream else b"")
    scale = _values(stream[b"SCAL"], b"") if b"SCAL" in stream else None
    if raw is None or scale is None or not np.all(scale) or scale.size not in (1, raw.shape[1]):
        return None
    return raw / scale.reshape(-1)


def _spread(from_s: float, lasts_s: float, count: int) -> Floats:
    """When the samples of a packet were taken: evenly over its time."""
    return from_s + lasts_s * np.arange(count) / count


def _fixes_of(stream: dict[bytes, _Entry], from_s: float, lasts_s: float) -> list[tuple[float, ...]]:
    """Time, latitude, longitude, height, speed and accuracy of each fix in a stream."""
    nine = _scaled(stream, b"GPS9")
    values = nine if nine is not None else _scaled(stream, b"GPS5")
    if values is None or values.shape[1] < 5:
        return []
    fix = _values(stream[b"GPSF"], b"") if b"GPSF" in stream else None
    fixed = (
        values[:, 8] >= LEAST_FIX
        if nine is not None and values.shape[1] >= 9
        else np.full(len(values), fix is None or fix[0, 0] >= LEAST_FIX)
    )
    when = _spread(from_s, lasts_s, len(values))
    return [(float(t), *map(float, row[:4]), np.nan) for t, row, good in zip(when, values, fixed, strict=True) if good]


def _table(fixes: list[tuple[float, ...]], turning: list[Floats], pulled: list[Floats]) -> bytes:
    """Fixes and the yaw rate as text with a column each, beginning where the video does.

    However the camera is turned, its accelerometer feels the weight of the car on the mean, and that tells which way is up; the
    yaw rate is the turning about it.
    """
    yaw: NDArray[np.float64] = np.zeros((0, 2))
    if turning and pulled:
        up = np.mean(np.concatenate(pulled)[:, 1:], axis=0)
        if (weight := float(np.linalg.norm(up))) > 0:
            turned = np.concatenate(turning)
            yaw = np.column_stack([turned[:, 0], turned[:, 1:] @ (up / weight)])
    rows = [(0.0, "0.000,,,,,,")]
    rows += [
        (t, f"{t:.3f},{lat:.7f},{lon:.7f},{_cell(alt, 1)},{_cell(speed, 3)},{_cell(hacc, 2)},") for t, lat, lon, alt, speed, hacc in fixes
    ]
    rows += [(t, f"{t:.3f},,,,,,{rate:.5f}") for t, rate in yaw]
    rows.sort(key=lambda r: r[0])
    head = "time_s,lat_deg,lon_deg,alt_m,speed_mps,hacc_m,yaw_rate_radps"
    return "\n".join([head, *(words for _, words in rows), ""]).encode()


def _cell(value: float, digits: int) -> str:
    return f"{value:.{digits}f}" if np.isfinite(value) else ""
