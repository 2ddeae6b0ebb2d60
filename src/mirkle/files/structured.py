"""Between JSON and dataclasses."""

from __future__ import annotations

import base64
from functools import cache
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from cattrs import Converter


@cache
def converter() -> Converter:
    """What makes dataclasses of JSON and JSON of dataclasses; bytes are written in base64. Made when first asked for: it is slow to import."""
    from cattrs.preconf.json import make_converter

    made = make_converter()
    made.register_unstructure_hook(bytes, lambda content: base64.b64encode(content).decode())
    made.register_structure_hook(bytes, lambda text, _: base64.b64decode(text))
    return made
