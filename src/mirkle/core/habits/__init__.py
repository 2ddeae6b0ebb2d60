"""What a crew always does: its scale over all its stages, and where its notes differ from the road systematically."""
