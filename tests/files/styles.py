"""One drive as sixty loggers, telephones and spreadsheets would write it. # made up after common practice"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

import numpy as np

from tests.core.test_passes import winding
from tests.worlds import recording_of_curvature

_DRIVE = recording_of_curvature(winding((60.0, 80), (-30.0, 100), (150.0, 45), (-45.0, 60), (80.0, 70)), noise=0.0)
T_S = _DRIVE.channels["lat_rad"].time_s
LAT, LON = (np.degrees(_DRIVE.channels[c].value) for c in ("lat_rad", "lon_rad"))
KMH = _DRIVE.channels["speed_mps"].value * 3.6
COURSE = np.degrees(_DRIVE.channels["course_rad"].value)
ALT = 300.0 + 20.0 * np.sin(T_S / 20.0)
BEGAN = datetime(2031, 5, 17, 23, 59, 40, tzinfo=UTC)


@dataclass(frozen=True)
class Row:
    """One sample of the drive."""

    t: float
    lat: float
    lon: float
    kmh: float
    course: float
    alt: float


ROWS = [Row(*map(float, r)) for r in zip(T_S, LAT, LON, KMH, COURSE, ALT, strict=True)]
Line = Callable[[Row], str]


def table(head: str, line: Line, *, rows: list[Row] = ROWS) -> bytes:
    """A table with a head and a line for each row."""
    return "\n".join([*([head] if head else []), *map(line, rows)]).encode() + b"\n"


def clock(t: float, form: str) -> str:
    return (BEGAN + timedelta(seconds=t)).strftime(form)


def comma(text: str) -> str:
    return text.replace(".", ",")


def dm(degrees: float, letters: str, form: str = "{d}° {m:.5f}' {h}") -> str:
    """Degrees and minutes, or minutes and seconds, with a letter."""
    whole = abs(degrees)
    d = int(whole)
    m = 60.0 * (whole - d)
    return form.format(d=d, m=m, mi=int(m), s=60.0 * (m - int(m)), h=letters[degrees < 0])


def ddmm(degrees: float) -> float:
    return 100.0 * int(abs(degrees)) + 60.0 * (abs(degrees) - int(abs(degrees)))


def plain(r: Row) -> str:
    return f"{r.t:.2f},{r.lat:.8f},{r.lon:.8f},{r.kmh:.3f}"


HEAD = "time_s,lat_deg,lon_deg,speed_kmh"
PLAIN = table(HEAD, plain)


def fixed(r: Row) -> str:
    return f"{r.t:10.2f}{r.lat:14.7f}{r.lon:14.7f}{r.kmh:10.3f}"


def _repeated_heads() -> bytes:
    lines = [HEAD]
    for i, r in enumerate(ROWS):
        if i and i % 150 == 0:
            lines.append(HEAD)
        lines.append(plain(r))
    return "\n".join(lines).encode()


def _with(rows: dict[int, Line]) -> bytes:
    return "\n".join([HEAD, *((rows.get(i, plain))(r) for i, r in enumerate(ROWS))]).encode() + b"\n"


def _grouped(value: float, sign: str, decimal: str) -> str:
    """A number with its thousands apart."""
    return f"{value:,.3f}".replace(",", "\0").replace(".", decimal).replace("\0", sign)


MS = "time (ms);lat;lon;speed (km/h)"
STYLES: dict[str, bytes] = {
    # Places
    "degrees and minutes": table("time;lat;lon;speed (km/h)", lambda r: f"{r.t:.2f};{dm(r.lat, 'NS')};{dm(r.lon, 'EW')};{r.kmh:.3f}"),
    "degrees and minutes, a letter in front": table(
        "time;lat;lon;speed (km/h)",
        lambda r: f"{r.t:.2f};{dm(r.lat, 'NS', '{h} {d}° {m:.5f}')};{dm(r.lon, 'EW', '{h} {d}° {m:.5f}')};{r.kmh:.3f}",
    ),
    "degrees, minutes and seconds": table(
        "time;lat;lon;speed (km/h)",
        lambda r: f"{r.t:.2f};" + ";".join(dm(v, h, "{d}°{mi}'{s:.4f}\"{h}") for v, h in ((r.lat, "NS"), (r.lon, "EW"))) + f";{r.kmh:.3f}",
    ),
    "degrees, minutes and seconds with curly signs": table(
        "time;lat;lon;speed (km/h)",
        lambda r: (
            f"{r.t:.2f};" + ";".join(dm(v, h, "{d}° {mi}′ {s:.4f}″ {h}") for v, h in ((r.lat, "NS"), (r.lon, "EW"))) + f";{r.kmh:.3f}"
        ),
    ),
    "a letter behind": table("time,lat,lon,speed (km/h)", lambda r: f"{r.t:.2f},{abs(r.lat):.7f}N,{abs(r.lon):.7f}W,{r.kmh:.3f}"),
    "a letter in front": table("time,lat,lon,speed (km/h)", lambda r: f"{r.t:.2f},N{abs(r.lat):.7f},W{abs(r.lon):.7f},{r.kmh:.3f}"),
    "a degree sign behind": table("time,lat,lon,speed (km/h)", lambda r: f"{r.t:.2f},{r.lat:.7f}°,{r.lon:.7f}°,{r.kmh:.3f}"),
    "ddmm.mmmm with columns of letters": table(
        "time,lat,N/S,lon,E/W,speed (km/h)", lambda r: f"{r.t:.2f},{ddmm(r.lat):.6f},N,{ddmm(r.lon):.6f},W,{r.kmh:.3f}"
    ),
    "ddmm.mmmm with a letter behind": table(
        "time,lat,lon,speed (km/h)", lambda r: f"{r.t:.2f},{ddmm(r.lat):.6f}N,{ddmm(r.lon):.6f}W,{r.kmh:.3f}"
    ),
    "ddmm.mmmm with a minus": table("time,lat,lon,speed (km/h)", lambda r: f"{r.t:.2f},{ddmm(r.lat):.6f},-{ddmm(r.lon):.6f},{r.kmh:.3f}"),
    "degrees with columns of letters": table(
        "time,lat,lat hemisphere,lon,lon hemisphere,speed (km/h)", lambda r: f"{r.t:.2f},{abs(r.lat):.7f},N,{abs(r.lon):.7f},W,{r.kmh:.3f}"
    ),
    "ten millionths of a degree": table(
        "time,lat,lon,speed (km/h)", lambda r: f"{r.t:.2f},{r.lat * 1e7:.0f},{r.lon * 1e7:.0f},{r.kmh:.3f}"
    ),
    "millionths of a degree": table("time,lat,lon,speed (km/h)", lambda r: f"{r.t:.2f},{r.lat * 1e6:.0f},{r.lon * 1e6:.0f},{r.kmh:.3f}"),
    "both in one quoted column": table("time,position,speed (km/h)", lambda r: f'{r.t:.2f},"{r.lat:.7f}, {r.lon:.7f}",{r.kmh:.3f}'),
    "both in one column": table("time;lat/lon;speed (km/h)", lambda r: f"{r.t:.2f};{r.lat:.7f} {r.lon:.7f};{r.kmh:.3f}"),
    "radians that nobody names": table(
        "time,lat,lon,speed (km/h)", lambda r: f"{r.t:.2f},{np.radians(r.lat):.10f},{np.radians(r.lon):.10f},{r.kmh:.3f}"
    ),
    # Times
    "days of a spreadsheet": table(
        "Date,Latitude,Longitude,Speed (km/h)", lambda r: f"{48000 + (30000 + r.t) / 86400:.10f},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"
    ),
    "days of a spreadsheet with a comma": table(
        "Time;Latitude;Longitude;Speed (km/h)", lambda r: comma(f"{48000 + (30000 + r.t) / 86400:.10f};{r.lat:.7f};{r.lon:.7f};{r.kmh:.3f}")
    ),
    "whole seconds at ten a second": table("time,lat,lon,speed (km/h)", lambda r: f"{int(r.t + 1e-6)},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"),
    "a clock in whole seconds at ten a second": table(
        "time,lat,lon,speed (km/h)", lambda r: f"{clock(int(r.t + 1e-6), '%H:%M:%S')},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"
    ),
    "minutes that nobody names": table("time,lat,lon,speed (km/h)", lambda r: f"{r.t / 60:.6f},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"),
    "hours that nobody names": table("time,lat,lon,speed (km/h)", lambda r: f"{r.t / 3600:.9f},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"),
    "hundredths of a second that nobody names": table(
        "time,lat,lon,speed (km/h)", lambda r: f"{r.t * 100:.0f},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"
    ),
    "hours": table("time (h),lat,lon,speed (km/h)", lambda r: f"{r.t / 3600:.9f},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"),
    "seconds since 1970": table(
        "unix_time,lat,lon,speed (km/h)", lambda r: f"{BEGAN.timestamp() + r.t:.2f},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"
    ),
    "milliseconds since 1970": table(
        "epoch_ms,lat,lon,speed (km/h)", lambda r: f"{(BEGAN.timestamp() + r.t) * 1000:.0f},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"
    ),
    "date and time in two columns": table(
        "date,time,lat,lon,speed (km/h)",
        lambda r: f"{clock(r.t, '%Y-%m-%d')},{clock(r.t, '%H:%M:%S.%f')},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}",
    ),
    "a clock over midnight": table(
        "time,lat,lon,speed (km/h)", lambda r: f"{clock(r.t, '%H:%M:%S.%f')},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"
    ),
    "hhmmss.ss": table("utc,lat,lon,speed (km/h)", lambda r: f"{clock(r.t, '%H%M%S.%f')[:9]},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}"),
    # Numbers
    "thousands in quotes": table(
        "time (ms),lat,lon,speed (km/h)", lambda r: f'"{_grouped(r.t * 1000, ",", ".")}",{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}'
    ),
    "thousands by a point": table(
        MS, lambda r: f"{_grouped(r.t * 1000, '.', ',')};{comma(f'{r.lat:.7f}')};{comma(f'{r.lon:.7f}')};{comma(f'{r.kmh:.3f}')}"
    ),
    "thousands by a space": table(
        MS, lambda r: f"{_grouped(r.t * 1000, ' ', ',')};{comma(f'{r.lat:.7f}')};{comma(f'{r.lon:.7f}')};{comma(f'{r.kmh:.3f}')}"
    ),
    "thousands by a narrow space": table(
        MS, lambda r: f"{_grouped(r.t * 1000, chr(0x202F), ',')};{comma(f'{r.lat:.7f}')};{comma(f'{r.lon:.7f}')};{comma(f'{r.kmh:.3f}')}"
    ),
    "a speed ten times too large": table(HEAD, lambda r: f"{r.t:.2f},{r.lat:.8f},{r.lon:.8f},{r.kmh * 10:.1f}"),
    "a speed in hundredths": table(HEAD, lambda r: f"{r.t:.2f},{r.lat:.8f},{r.lon:.8f},{r.kmh * 100:.0f}"),
    "exponents": table("time,lat,lon,speed (km/h)", lambda r: f"{r.t:.6E},{r.lat:.10E},{r.lon:.10E},{r.kmh:.6e}"),
    "a true minus sign": table("time,lat,lon,speed (km/h)", lambda r: f"{r.t:.2f},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f}".replace("-", "−")),
    "a plus in front": table("time,lat,lon,speed (km/h)", lambda r: f"+{r.t:.2f},+{r.lat:.7f},{r.lon:+.7f},+{r.kmh:.3f}"),
    "units in the cells": table("time,lat,lon,speed", lambda r: f"{r.t:.2f} s,{r.lat:.7f}°,{r.lon:.7f}°,{r.kmh:.3f} km/h"),
    # Tables
    "heads that come again": _repeated_heads(),
    "a footer": PLAIN + b"\nTotal;;;\nExported by a box, 17.05.2031\n",
    "a footer of one line": PLAIN + b"# end of file\n",
    "a footer of sums": PLAIN + b"Average,,,61.2\nMaximum,,,98.0\n",
    "fixed width": table("      time           lat           lon speed_kmh", fixed),
    "blanks between": table("time lat lon speed_kmh", lambda r: f"{r.t:.2f} {r.lat:.7f} {r.lon:.7f} {r.kmh:.3f}"),
    "utf-16 without a mark": PLAIN.decode().encode("utf-16-le"),
    "utf-16 without a mark, the other way round": PLAIN.decode().encode("utf-16-be"),
    "old line ends": PLAIN.replace(b"\n", b"\r"),
    "an empty line between the rows": PLAIN.replace(b"\n", b"\n\n"),
    "a mark in front, quotes everywhere": b"\xef\xbb\xbf"
    + table('"time","lat","lon","speed (km/h)"', lambda r: f'"{r.t:.2f}","{r.lat:.7f}","{r.lon:.7f}","{r.kmh:.3f}"'),
    # Words
    "spanish": table(
        "Tiempo;Latitud;Longitud;Velocidad (km/h);Rumbo;Altitud",
        lambda r: comma(f"{r.t:.2f};{r.lat:.7f};{r.lon:.7f};{r.kmh:.3f};{r.course:.1f};{r.alt:.1f}"),
    ),
    "swedish": table(
        "Tid;Latitud;Longitud;Hastighet (km/h);Kurs;Höjd",
        lambda r: comma(f"{r.t:.2f};{r.lat:.7f};{r.lon:.7f};{r.kmh:.3f};{r.course:.1f};{r.alt:.1f}"),
    ),
    "polish": table(
        "Czas;Szerokość geograficzna;Długość geograficzna;Prędkość (km/h);Kurs;Wysokość",
        lambda r: comma(f"{r.t:.2f};{r.lat:.7f};{r.lon:.7f};{r.kmh:.3f};{r.course:.1f};{r.alt:.1f}"),
    ),
    "czech": table(
        "Čas;Zeměpisná šířka;Zeměpisná délka;Rychlost (km/h);Směr;Nadmořská výška",
        lambda r: comma(f"{r.t:.2f};{r.lat:.7f};{r.lon:.7f};{r.kmh:.3f};{r.course:.1f};{r.alt:.1f}"),
    ),
    "japanese": table(
        "時刻,緯度,経度,速度(km/h),方位,高度", lambda r: f"{r.t:.2f},{r.lat:.7f},{r.lon:.7f},{r.kmh:.3f},{r.course:.1f},{r.alt:.1f}"
    ),
    "height as ele": table("time,lat,lon,ele,speed (km/h)", lambda r: f"{r.t:.2f},{r.lat:.7f},{r.lon:.7f},{r.alt:.1f},{r.kmh:.3f}"),
    # Slips
    "one latitude of 91": _with({300: lambda r: f"{r.t:.2f},91.0,{r.lon:.8f},{r.kmh:.3f}"}),
    "one longitude of 500": _with({300: lambda r: f"{r.t:.2f},{r.lat:.8f},500.0,{r.kmh:.3f}"}),
    "a wild place at either end": _with(
        {0: lambda r: f"{r.t:.2f},91.0,0.0,{r.kmh:.3f}", len(ROWS) - 1: lambda r: f"{r.t:.2f},0.0,181.0,{r.kmh:.3f}"}
    ),
    "words where nothing was measured": _with({i: lambda r: f"{r.t:.2f},no fix,no fix,{r.kmh:.3f}" for i in range(4)}),
}
