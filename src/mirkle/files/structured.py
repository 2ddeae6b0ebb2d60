"""Between JSON and dataclasses."""

from __future__ import annotations

import base64
import json
from functools import cache
from typing import TYPE_CHECKING, TypeVar

from mirkle.core.errors import MirkleError

if TYPE_CHECKING:
    from cattrs import Converter


_Kind = TypeVar("_Kind")


def call_times(content: bytes, kind: type[_Kind], *, name: str) -> _Kind:
    """Call times from a sound, in one of the forms they are written in.

    Raises
    ------
    MirkleError
    """
    try:
        return converter().structure(json.loads(content), kind)
    # What cattrs raises is a group of faults, or one that Python raises for the wrong kind of value.
    except (ExceptionGroup, ValueError, KeyError, TypeError, AttributeError, RecursionError, OverflowError):
        raise MirkleError("it does not hold call times from a sound", mend="have Mirkle listen again", where=name) from None


@cache
def converter() -> Converter:
    """What makes dataclasses of JSON and JSON of dataclasses; bytes are written in base64. Made when first asked for: it is slow to
    import."""
    from cattrs.preconf.json import make_converter

    made = make_converter()
    made.register_unstructure_hook(bytes, lambda content: base64.b64encode(content).decode())
    made.register_structure_hook(bytes, lambda text, _: base64.b64decode(text))
    return made
