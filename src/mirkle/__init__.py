"""Mirkle reviews a rally crew's recorded stage runs against its notes."""

__version__ = "0.2.0"
