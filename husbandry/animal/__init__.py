"""The animal of a plan: its body, its growth, its year and what it needs of an enclosure."""
