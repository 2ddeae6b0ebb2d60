"""What a column or a measured signal holds, told by its name and its unit, however loosely and in whatever language either is written."""

from __future__ import annotations

import math
import re
import unicodedata
from dataclasses import dataclass
from functools import lru_cache

from mirkle.core.constants import GRAVITY_MPS2, KMH_PER_MPS, KNOT_MPS, MPH_MPS
from mirkle.core.recording.channels import CHANNELS

_DEGREE = math.pi / 180.0

# quantity -> (channel, unit -> factor to SI, the unit that goes without saying)
_ANGLE = {"deg": _DEGREE, "rad": 1.0, "e7": 1e-7 * _DEGREE}
_LENGTH = {"m": 1.0, "ft": 0.3048, "cm": 0.01, "mm": 0.001}
_SPEED = {"mps": 1.0, "kmh": 1 / KMH_PER_MPS, "mph": MPH_MPS, "kn": KNOT_MPS, "cmps": 0.01, "mmps": 0.001}
_ACCELERATION = {"mps2": 1.0, "g": GRAVITY_MPS2, "mg": GRAVITY_MPS2 / 1000}
# The units of each dimension, and of which quantities one goes without saying.
_UNITS_IN = {"rad": _ANGLE, "m": _LENGTH, "m/s": _SPEED, "m/s²": _ACCELERATION, "rad/s": {"dps": _DEGREE, "radps": 1.0}, "1": {"1": 1.0}}
_ASSUMED = {"lat": "deg", "lon": "deg", "alt": "m", "course": "deg", "hacc": "m", "brake": "1", "throttle": "1"}
_QUANTITIES: dict[str, tuple[str, dict[str, float], str]] = {
    "time": ("time_s", {"s": 1.0, "ms": 1e-3, "us": 1e-6, "ns": 1e-9, "min": 60.0, "h": 3600.0, "days": 86400.0}, "s"),
    **{kind.quantity: (name, _UNITS_IN[kind.unit], _ASSUMED.get(kind.quantity, "")) for name, kind in CHANNELS.items()},
    # A day, with its time or without, that stands for the time where no other column does.
    "date": ("date_s", {"days": 86400.0}, "days"),
    # Latitude and longitude in one cell.
    "position": ("position", _ANGLE, "deg"),
}
# Other words for the same, as loggers and telephones write them in seven languages, without accents. # common practice
_WORDS = {
    "time": "timestamp t elapsed elapsed_time seconds_elapsed time_elapsed logging_time session_time utc utc_time gps_time local_time "
    "date_time datetime time_of_day time_stamp clock zeit uhrzeit zeitstempel hora tempo tiempo temps heure horodatage ora aika "
    "kellonaika aikaleima marca_de_tempo marca_de_tiempo since_start time_since_start unix_time unix epoch epoch_time posix_time posix "
    "tid tidpunkt tidsstampel klockslag czas godzina znacznik_czasu cas casove_razitko 時刻 時間 タイムスタンプ 経過時間 日時",
    "date": "datum fecha data dato date_utc utc_date data_utc pvm paivamaara 日付",
    "position": "lat_lon lat/lon latlon lat_long latlong lat_lng latlng coordinates coordinate coords location gps_position gps "
    "latitude_longitude latitude/longitude koordinaten coordenadas coordonnees coordinate_gps 位置 座標",
    "lat": "latitude breite breitengrad geographische_breite latitud latitudine leveysaste leveys breddgrad szerokosc "
    "szerokosc_geograficzna zemepisna_sirka sirka 緯度",
    "lon": "longitude lng long laenge lange langengrad laengengrad longitud longitudine pituusaste pituus langdgrad dlugosc "
    "dlugosc_geograficzna zemepisna_delka delka 経度",
    "alt": "altitude height elevation hoehe hohe altura altitud altitudine quota korkeus elevacao elevacion msl altitude_msl "
    "ele hojd wysokosc wysokosc_npm nadmorska_vyska vyska 高度 標高",
    "speed": "velocity ground_speed g_speed gspeed speed_over_ground sog geschwindigkeit velocidade velocidad vitesse velocita nopeus "
    "tempo_kmh vehicle_speed hastighet fart predkosc rychlost 速度 車速",
    "course": "heading bearing track course_over_ground cog true_course true_heading direction kurs richtung rumo rumbo cap rotta "
    "direzione suunta riktning kierunek smer azymut azimut azimuth 方位 方位角 進行方向",
    "hacc": "accuracy horizontal_accuracy position_accuracy genauigkeit horizontale_genauigkeit precisao precision precisione "
    "tarkkuus exatidao exactitud precision_horizontal precisao_horizontal horizontal_error",
    "acc_x": "longitudinal_acc longitudinal_acceleration long_acc lon_acc acc_long acc_lon longitudinal_g g_long "
    "langsbeschleunigung laengsbeschleunigung aceleracao_longitudinal aceleracion_longitudinal acceleration_longitudinale "
    "accelerazione_longitudinale pitkittaiskiihtyvyys",
    "acc_y": "lateral_acc lateral_acceleration lat_acc acc_lat lateral_g g_lat querbeschleunigung aceleracao_lateral "
    "aceleracion_lateral acceleration_laterale accelerazione_laterale sivuttaiskiihtyvyys",
    "acc_z": "vertical_acc vertical_acceleration vert_acc acc_vert vertical_g vertikalbeschleunigung aceleracao_vertical "
    "aceleracion_vertical acceleration_verticale accelerazione_verticale pystykiihtyvyys",
    "yaw_rate": "yawrate yaw gierrate giergeschwindigkeit velocidade_de_guinada guinada velocidad_de_guinada vitesse_de_lacet lacet "
    "imbardata velocita_di_imbardata kaantymisnopeus",
    "steer": "steering steering_angle lenkwinkel angulo_de_volante angulo_volante angle_volant angolo_sterzo ohjauskulma",
    "wheel_speed": "wheelspeed radgeschwindigkeit velocidade_da_roda velocidad_de_rueda vitesse_roue velocita_ruota",
    "brake": "brake_pressure brake_pedal bremse freno travao freio frein jarru",
    "throttle": "throttle_position accelerator accelerator_pedal gas acelerador accelerateur acceleratore kaasu",
}
# Words that name an axis of a box, before or behind its letter.
_ACCELERATION_WORDS = [
    "acc",
    "accel",
    "acceleration",
    "accelerometer",
    "linear_acceleration",
    "beschleunigung",
    "aceleracao",
    "aceleracion",
    "accelerazione",
    "kiihtyvyys",
    "g_force",
    "gforce",
]
_TURNING_WORDS = [
    "gyro",
    "gyr",
    "gyroscope",
    "rotation_rate",
    "rotation",
    "angular_velocity",
    "giro",
    "giroscopio",
    "drehrate",
    "gyroskooppi",
]
_ALSO = {word: quantity for quantity, words in _WORDS.items() for word in words.split()}
_ALSO |= {f"{w}_{axis}": f"acc_{axis}" for w in _ACCELERATION_WORDS for axis in "xyz"}
_ALSO |= {f"{axis}_{w}": f"acc_{axis}" for w in _ACCELERATION_WORDS for axis in "xyz"}
_ALSO |= {f"{w}_z": "yaw_rate" for w in _TURNING_WORDS} | {f"z_{w}": "yaw_rate" for w in _TURNING_WORDS}
# What stands in front of a name and says where it came from.
_FROM = re.compile(r"^(?:gps|gnss|vehicle|car|device|location|imu|sensor|calc|calculated|sensorlog)_+")
_UNITS = {
    "°": "deg",
    "degree": "deg",
    "degrees": "deg",
    "º": "deg",
    "grad": "deg",
    "graus": "deg",
    "grados": "deg",
    "degres": "deg",
    "gradi": "deg",
    "astetta": "deg",
    "km/h": "kmh",
    "kph": "kmh",
    "kmph": "kmh",
    "m/s": "mps",
    "cm/s": "cmps",
    "cms": "cmps",
    "mm/s": "mmps",
    "mms": "mmps",
    "ms-1": "mps",
    "m/s²": "mps2",
    "m/s^2": "mps2",
    "m/s2": "mps2",
    "m/s/s": "mps2",
    "ms-2": "mps2",
    "°/s": "dps",
    "º/s": "dps",
    "deg/s": "dps",
    "deg/sec": "dps",
    "degrees/s": "dps",
    "grad/s": "dps",
    "rad/s": "radps",
    "rad/sec": "radps",
    "knots": "kn",
    "kt": "kn",
    "kts": "kn",
    "knot": "kn",
    "sec": "s",
    "seconds": "s",
    "second": "s",
    "secs": "s",
    "millis": "ms",
    "msec": "ms",
    "metres": "m",
    "meters": "m",
    "mts": "m",
    "feet": "ft",
    "gs": "g",
    "hours": "h",
    "hour": "h",
    "hrs": "h",
    "hr": "h",
    "std": "h",
    "minutes": "min",
    "mins": "min",
    "minute": "min",
    "day": "days",
    "d": "days",
    "utc": "",
    "hh:mm:ss": "",
    "unix": "",
    "wgs84": "",
    "%": "1",
    "-": "",
}


# No column is called longer.
LONGEST_NAME = 120


@dataclass(frozen=True)
class Column:
    """A column's name as it stands, the channel it fills, and the factor to SI; 0 where the name says no unit and there is none that
    goes without saying."""

    header: str
    channel: str
    factor: float


def plain_name(header: str) -> str:
    """A name in small letters with underscores and without accents: ``LateralAcc`` and ``Lateral acc.`` are one."""
    name = re.sub(r"(?<=[a-z0-9])(?=[A-Z])", "_", header.strip())
    name = name.lower().replace("ß", "ss").replace("ä", "a").replace("ö", "o").replace("ü", "u").replace("ł", "l").replace("ø", "o")
    name = "".join(c for c in unicodedata.normalize("NFKD", name) if not unicodedata.combining(c))
    return re.sub(r"[\s\-.:]+", "_", name).strip("_")


def column_of(header: str, unit: str = "") -> Column | None:
    """What a column holds: ``speed_kmh``, ``Speed (km/h)`` and ``Speed`` with its unit beside it are one; else ``None``.

    A quantity without its unit is known, with the factor 0.
    """
    # Cells of numbers are asked about as well, by the million: no name is without a letter.
    if len(header) > 2 * LONGEST_NAME or not any(map(str.isalpha, header)):
        return None
    return _column_of(header, unit)


@lru_cache(maxsize=4096)
def _column_of(header: str, unit: str) -> Column | None:
    name = header.strip()
    if len(name) > LONGEST_NAME:
        return None
    if bracketed := re.fullmatch(r"([^\[({（]*)[\[({（]([^\])}）]*)[\])}）]", name):
        name, unit = bracketed[1].strip(), bracketed[2].strip() or unit
    unit = _unit(unit)
    plain = plain_name(name)
    for asked in dict.fromkeys((plain, _FROM.sub("", plain), plain.replace("/", "_"))):
        quantity = asked if asked in _QUANTITIES else _ALSO.get(asked, "")
        if quantity:
            return _column(header, quantity, unit)
    # The unit may be the name's last word: speed_kmh.
    for asked in dict.fromkeys((plain, _FROM.sub("", plain))):
        head, _, suffix = asked.rpartition("_")
        quantity = head if head in _QUANTITIES else _ALSO.get(head, "")
        if quantity and _unit(suffix) in _QUANTITIES[quantity][1]:
            return _column(header, quantity, _unit(suffix))
    return None


def units_of(channel: str) -> dict[str, float]:
    """The units that a channel may come in, each with its factor to SI."""
    return next((units for name, units, _ in _QUANTITIES.values() if name == channel), {})


def quantity_of(channel: str) -> str:
    """What a column with a channel is called."""
    return next(quantity for quantity, (name, _, _) in _QUANTITIES.items() if name == channel)


def quantities() -> dict[str, tuple[str, ...]]:
    """What a column may hold, with the units it may come in; ``lat (deg)`` and the like name such a column beyond doubt."""
    return {quantity: tuple(units) for quantity, (_, units, _) in _QUANTITIES.items()}


def shown_unit(unit: str) -> str:
    """A unit as it is written for people."""
    shown = {"mps": "m/s", "kmh": "km/h", "kn": "knots", "mps2": "m/s²", "dps": "°/s", "radps": "rad/s", "deg": "°"}
    return shown.get(unit, unit)


def _unit(text: str) -> str:
    plain = re.sub(r"\s+", "", text.strip().lower())
    return _UNITS.get(plain, plain)


def _column(header: str, quantity: str, unit: str) -> Column | None:
    channel, units, assumed = _QUANTITIES[quantity]
    if unit and unit not in units:
        # A word in brackets that is no unit of it, such as a place or a count.
        return Column(header, channel, units.get(assumed, 0.0)) if not unit.isascii() or quantity == "time" else None
    return Column(header, channel, units.get(unit or assumed, 0.0))
