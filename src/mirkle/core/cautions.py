"""What everybody who uses or reads what comes out of Mirkle must see: at first start, in the help, on all that is printed."""

from __future__ import annotations

from mirkle.core.messages import gettext_noop

CAUTIONS = (
    gettext_noop(
        "What Mirkle measures is the line that one car took on one pass. By the next pass ruts, stones pulled onto the "
        "road, water or ice may have changed it."
    ),
    gettext_noop(
        "Both of you agree on every change, and look at the recording before you do. A note is made faster only by two "
        "people, never by a number."
    ),
    gettext_noop("The organisers' rules on reconnaissance, note-making, recording and safety notices come before anything here."),
    gettext_noop("Never try notes out on a road that is open to others."),
    gettext_noop("Mirkle does not stand in for the official road book, the safety crews or what the stewards say."),
)
