"""A third kind of world, made by other means than the rough ones: roads that were surveyed and not drawn, hills from a random surface, a
point of mass with a late human hand at its wheel, receivers that smooth, and crews that grade on a slow reconnaissance.

``training`` worlds may be opened by whoever fits a number. ``kept`` ones come from other numbers and have one mechanism each for
the crew, the driver and the receiver that the training side does not have; figures are reported on those.
"""
