"""The stage at its coming pace: when each line of the new edition has to be called, and how a practised call compares with that."""
