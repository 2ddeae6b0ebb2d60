"""Frozen dataclasses as JSON and back: what is of another shape is refused, what a newer program wrote beside is kept.

A field that holds its default is not written. A class with a field ``extra`` keeps the keys that it doesn't know there, and writes them
back as they came. A field whose name in files is another says so in its metadata, under :data:`NAME_IN_FILES`.
"""

from __future__ import annotations

import types
import typing
from dataclasses import MISSING, Field, fields, is_dataclass
from functools import cache
from math import isfinite
from typing import Any, Literal, TypeVar

from mirkle.core.notebook.passes import NAME_IN_FILES

T = TypeVar("T")


class UnknownChoice(ValueError):
    """A field holds none of the words that it may hold: a newer program may know more of them."""


def to_json(value: Any) -> dict[str, Any]:
    """A record as a JSON object."""
    out = dict(getattr(value, "extra", {}))
    for field in fields(value):
        held = getattr(value, field.name)
        if field.name != "extra" and not _is_default(field, held):
            out[_key(field)] = to_json(held) if is_dataclass(held) else held
    return out


def _key(field: Field[Any]) -> str:
    return str(field.metadata.get(NAME_IN_FILES, field.name))


def _is_default(field: Field[Any], held: object) -> bool:
    return field.default is not MISSING and held == field.default


def from_json(cls: type[T], data: object) -> T:
    """A record of a class from a JSON object.

    Raises
    ------
    ValueError
        Something in it is missing or of another kind; :class:`UnknownChoice` where it is a word that only a newer program knows.
    """
    if not isinstance(data, dict):
        raise ValueError("no object")
    hints = _hints(typing.cast(typing.Hashable, cls))
    known = {hints[key][0]: _checked(hints[key][1], value) for key, value in data.items() if key in hints}
    if "extra" in {f.name for f in fields(cls)}:  # type: ignore[arg-type]
        known["extra"] = {name: value for name, value in data.items() if name not in hints}
    try:
        return cls(**known)
    except TypeError as error:
        raise ValueError(str(error)) from None


@cache
def _hints(cls: Any) -> dict[str, tuple[str, Any]]:
    """The fields of a class by their keys: names and types."""
    hints = typing.get_type_hints(cls)
    return {_key(f): (f.name, hints[f.name]) for f in fields(cls) if f.name != "extra"}


def _checked(hint: Any, value: Any) -> Any:
    """A value as its type asks for it."""
    if isinstance(hint, types.UnionType):
        if value is None and type(None) in hint.__args__:
            return None
        (hint,) = (h for h in hint.__args__ if h is not type(None))
    if typing.get_origin(hint) is Literal:
        if value not in hint.__args__:
            raise UnknownChoice(f"{value!r} is none of {hint.__args__}")
        return value
    if is_dataclass(hint):
        return from_json(typing.cast(type, hint), value)
    if hint is float and type(value) in (int, float) and isfinite(value):
        return float(value)
    if type(value) is not hint or hint is float:
        raise ValueError(f"{value!r} is no {hint.__name__}")
    return value
