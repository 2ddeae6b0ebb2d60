"""The numbers that the judging rests on: each with its unit, the interval that the training worlds leave it, and where it comes from."""

from __future__ import annotations

from dataclasses import dataclass, field, fields

FITTED, KINDER, TRADE = "bench/fit.py", "bench/accuracy.py", "common practice"


def _number(value: float, unit: str, low: float, high: float, source: str = FITTED) -> float:
    return field(default=value, metadata={"unit": unit, "low": low, "high": high, "source": source})


@dataclass(frozen=True)
class Parameters:
    """What the judges weigh by (docs/verdict.md says what each does in the model).

    ``bench/fit.py --judging`` moves one after the other over training worlds and prints, for each, the value of least cost and the
    interval in which the cost is no worse than chance would have it. What comes from the trade is not fitted.
    """

    least_shift: float = _number(0.85, "grades", 0.8, 1.3)
    least_scatters: float = _number(1.3, "scatters", 0.9, 1.8)
    half_sure_shift: float = _number(0.7, "grades", 0.25, 0.73)
    shared_scatter: float = _number(0.6, "scatters", 0.3, 1.05)
    coarse_widens: float = _number(1.35, "times", 1.15, 1.6, KINDER)
    slid_widens: float = _number(1.6, "times", 1.0, 2.4)
    danger_loss: float = _number(0.08, "share of speed", 0.01, 0.13)
    change_likely: float = _number(0.65, "probability", 0.55, 0.9)
    clear_bend_deg: float = _number(21.0, "degrees", 15.0, 29.0)
    asked: float = _number(0.2, "probability", 0.12, 0.3)
    said_missing: float = _number(0.4, "probability", 0.2, 0.6)
    tightens_spreads: float = _number(2.9, "standard deviations", 2.3, 3.4)
    late_s: float = _number(1.25, "seconds", 0.75, 1.75, TRADE)
    late_spreads: float = _number(3.0, "spreads", 2.7, 3.6)
    slip_share: float = _number(0.02, "of all calls", 0.01, 0.04, TRADE)
    unused_grip: float = _number(0.68, "of the usual grip", 0.6, 0.75, TRADE)


PARAMETERS = Parameters()


def rows() -> list[tuple[str, float, str, float, float, str]]:
    """Name, value, unit, interval and source of each."""
    return [
        (f.name, float(f.default), f.metadata["unit"], f.metadata["low"], f.metadata["high"], f.metadata["source"])  # type: ignore[arg-type]
        for f in fields(Parameters)
    ]
