"""Rough worlds: roads that are not arcs, a car that slides, a driver who errs, recorders with faults, crews with habits.

Two generators of roads and drivers, kept apart: ``training`` worlds may be opened by whoever fits a number, ``held_out`` ones
come from the other generator and from numbers that no fit opens; figures are reported on those.
"""
