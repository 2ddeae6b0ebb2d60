"""``python -m mirkle`` is ``mirkle``."""

import sys
from pathlib import Path

# Python puts the current folder in front of everything that is installed. A crew starts Mirkle in the folder of its files, and a
# numpy.py there is not what it wants to run. (``-P`` and PYTHONSAFEPATH leave the folder out themselves.)
if not sys.flags.safe_path and Path(__file__).resolve().parents[1] != Path(sys.path[0]).resolve():
    del sys.path[0]

from mirkle.cli import main

sys.exit(main())
