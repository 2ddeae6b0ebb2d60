"""A third kind of world, made by other means than the rough ones: roads that were surveyed and not drawn, hills from a random surface, a
point of mass with a late human hand at its wheel, receivers that smooth, and crews that grade on a slow reconnaissance.

Training worlds may be opened by whoever fits a number. Kept ones come from other numbers: their crews may grade by how fast a bend looks and their
receivers take a moving mean, which the training side has not, and their drivers misjudge more; figures are reported on those.
"""
