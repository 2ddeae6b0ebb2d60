"""Mirkle reviews a rally crew's recorded stage runs against its notes.

In a notebook: ``mirkle.review``, ``mirkle.read``, ``mirkle.write`` and ``mirkle.table``, as :mod:`mirkle.api` has them.
"""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING

__version__ = "0.3.0"
__all__ = ["MirkleError", "ReadingResult", "ReviewResult", "demo_files", "read", "review", "table", "write"]

if TYPE_CHECKING:
    from mirkle.api import MirkleError, ReadingResult, ReviewResult, demo_files, read, review, table, write


def __getattr__(name: str) -> object:
    # Read in when first asked for: the command line and the window are to start without it.
    if name in __all__:
        return getattr(import_module("mirkle.api"), name)
    raise AttributeError(f"module 'mirkle' has no attribute {name!r}")


def __dir__() -> list[str]:
    return sorted(["__version__", *__all__])
