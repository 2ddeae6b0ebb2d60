"""Checks against references and data from elsewhere. The heavy ones are optional: ``make test WITH=outside`` installs them."""

from __future__ import annotations

from importlib import metadata
from pathlib import Path

import pytest


def shipped(package: str, name: str) -> Path:
    """A file that an optional package ships; the test is skipped without it."""
    try:
        files = metadata.files(package) or []
    except metadata.PackageNotFoundError:
        pytest.skip(f"{package} is not installed: make test WITH=outside")
    return Path(str(next(f for f in files if str(f).endswith(name)).locate()))
