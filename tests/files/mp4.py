"""The smallest MP4 that carries a metadata track: written from ISO/IEC 14496-12, for what reads them."""

from __future__ import annotations

import struct
from collections.abc import Sequence

TIMESCALE = 1000


def _box(kind: bytes, *parts: bytes) -> bytes:
    body = b"".join(parts)
    return struct.pack(">I4s", 8 + len(body), kind) + body


def _full(kind: bytes, *parts: bytes) -> bytes:
    return _box(kind, bytes(4), *parts)


def mp4_with_track(entry: bytes, samples: Sequence[bytes], sample_ms: int) -> bytes:
    """A file with one metadata track of sample entry ``entry`` (4 bytes), each sample lasting ``sample_ms``."""
    head = _box(b"ftyp", b"mp41", struct.pack(">I", 0), b"mp41")
    begin, offsets = len(head) + 8, []
    for sample in samples:
        offsets.append(begin)
        begin += len(sample)
    lasts = sample_ms * len(samples)
    unity = struct.pack(">9i", 0x10000, 0, 0, 0, 0x10000, 0, 0, 0, 0x40000000)
    table = _box(
        b"stbl",
        _full(b"stsd", struct.pack(">I", 1), _box(entry, bytes(6), struct.pack(">H", 1))),
        _full(b"stts", struct.pack(">III", 1, len(samples), sample_ms)),
        _full(b"stsc", struct.pack(">IIII", 1, 1, 1, 1)),
        _full(b"stsz", struct.pack(">II", 0, len(samples)), *(struct.pack(">I", len(s)) for s in samples)),
        _full(b"stco", struct.pack(">I", len(offsets)), *(struct.pack(">I", o) for o in offsets)),
    )
    media = _box(
        b"mdia",
        _full(b"mdhd", struct.pack(">IIIIHH", 0, 0, TIMESCALE, lasts, 0x55C4, 0)),
        _full(b"hdlr", bytes(4), b"meta", bytes(12), b"metadata\0"),
        _box(b"minf", _full(b"nmhd"), _box(b"dinf", _full(b"dref", struct.pack(">I", 1), _box(b"url ", b"\0\0\0\1"))), table),
    )
    track = _box(b"trak", _box(b"tkhd", b"\0\0\0\7", struct.pack(">IIIII", 0, 0, 1, 0, lasts), bytes(16), unity, bytes(8)), media)
    movie = _full(
        b"mvhd",
        struct.pack(">IIII", 0, 0, TIMESCALE, lasts),
        struct.pack(">IH", 0x10000, 0x100),
        bytes(10),
        unity,
        bytes(24),
        struct.pack(">I", 2),
    )
    return head + _box(b"mdat", *samples) + _box(b"moov", movie, track)


def klv(key: bytes, kind: str, values: Sequence[Sequence[float]] | bytes) -> bytes:
    """One entry of the key-length-value layout: a key, a type letter, the size of one structure, how many, padded to four bytes."""
    if isinstance(values, bytes):
        size, count, body = 1, len(values), values
    else:
        form = {"l": "i", "s": "h", "S": "H", "L": "I"}[kind]
        body = b"".join(struct.pack(f">{len(v)}{form}", *map(int, v)) for v in values)
        size, count = len(body) // len(values), len(values)
    return key + struct.pack(">BBH", ord(kind) if kind else 0, size, count) + body + bytes(-len(body) % 4)


def nested(key: bytes, *entries: bytes) -> bytes:
    """Entries within one: its type is 0, its size counted in bytes."""
    body = b"".join(entries)
    return key + struct.pack(">BBH", 0, 1, len(body)) + body


def camm(kind: int, *values: float) -> bytes:
    """One packet of the camera motion layout: two bytes of nothing, the kind, its values in little-endian order."""
    form = {2: "<3f", 3: "<3f", 6: "<dIddfffffff"}[kind]
    return struct.pack("<HH", 0, kind) + struct.pack(form, *(int(v) if kind == 6 and i == 1 else v for i, v in enumerate(values)))
