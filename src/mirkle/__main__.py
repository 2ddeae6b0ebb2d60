"""``python -m mirkle`` is ``mirkle``."""

import sys

from mirkle.cli import main

sys.exit(main())
