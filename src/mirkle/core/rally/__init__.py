"""A rally: its itinerary, what fits before the next start, and how long the coming stage will take. Numbers and times only."""
