"""Frozen dataclasses to bytes and back, without running anything that the bytes contain.

Used to keep a finished review beside its inputs, so that a saved stage opens at once. Only the classes that such a value may hold are ever
built; arrays travel as raw numbers. It is a cache: bytes that do not fit are refused and the review is made again.
"""

from __future__ import annotations

import dataclasses
import io
import json
import zipfile
from enum import Enum
from functools import cache
from typing import Any, get_args, get_type_hints

import numpy as np


def pack(value: Any) -> bytes:
    """A dataclass, with what it holds, as bytes."""
    arrays: list[np.ndarray[Any, Any]] = []
    tree = _packed(value, arrays)
    file = io.BytesIO()
    named: dict[str, Any] = {f"a{i}": a for i, a in enumerate(arrays)}
    np.savez(file, tree=np.frombuffer(json.dumps(tree).encode(), np.uint8), **named)
    return file.getvalue()


def unpack(content: bytes, root: type) -> Any:
    """What :func:`pack` was given, a value of the class ``root``.

    Raises
    ------
    ValueError
        The bytes hold something else, or a class that no such value holds.
    """
    known = _classes_under(root)
    try:
        with np.load(io.BytesIO(content), allow_pickle=False) as file:
            return _unpacked(json.loads(bytes(file["tree"])), file, known)
    except (KeyError, TypeError, ValueError, OSError, zipfile.BadZipFile) as error:
        raise ValueError(f"not a packed value: {error}") from None


@cache
def _classes_under(root: type) -> dict[str, type]:
    """The classes of this program that a value of a class may hold, by the types of its fields, and the class itself."""
    found, waiting = {root.__name__: root}, [root]
    while waiting:
        for held in map(_classes_in, get_type_hints(waiting.pop()).values()):
            new = [c for c in held if c.__name__ not in found]
            found |= {c.__name__: c for c in new}
            waiting += new
    return found


def _classes_in(hint: Any) -> list[type]:
    """The classes of this program that a type is made of: ``tuple[Note, ...] | None`` of one."""
    inside = [c for part in get_args(hint) for c in _classes_in(part)]
    own = isinstance(hint, type) and not get_args(hint) and hint.__module__.split(".")[0] == __name__.split(".")[0]
    return [*inside, hint] if own else inside


def _packed(value: Any, arrays: list[np.ndarray[Any, Any]]) -> Any:
    if isinstance(value, np.ndarray):
        arrays.append(value)
        return {"#": len(arrays) - 1}
    if isinstance(value, Enum):
        return {"=": type(value).__name__, "v": value.value}
    if dataclasses.is_dataclass(value):
        return {
            "!": type(value).__name__,
            "f": {f.name: _packed(getattr(value, f.name), arrays) for f in dataclasses.fields(value) if f.init},
        }
    if isinstance(value, tuple) and hasattr(value, "_fields"):
        return {"!": type(value).__name__, "f": {n: _packed(getattr(value, n), arrays) for n in value._fields}}
    if isinstance(value, tuple):
        return [_packed(v, arrays) for v in value]
    if isinstance(value, dict):
        return {"{": [[_packed(k, arrays), _packed(v, arrays)] for k, v in value.items()]}
    if isinstance(value, np.generic):
        return value.item()
    return value


def _unpacked(tree: Any, arrays: Any, known: dict[str, type]) -> Any:
    if isinstance(tree, list):
        return tuple(_unpacked(t, arrays, known) for t in tree)
    if not isinstance(tree, dict):
        return tree
    if "#" in tree:
        return arrays[f"a{tree['#']}"]
    if "=" in tree:
        return known[tree["="]](tree["v"])
    if "{" in tree:
        return {_unpacked(k, arrays, known): _unpacked(v, arrays, known) for k, v in tree["{"]}
    return known[tree["!"]](**{name: _unpacked(v, arrays, known) for name, v in tree["f"].items()})
