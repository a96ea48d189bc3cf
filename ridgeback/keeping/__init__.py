"""Running the place: the animals, what happens to them, and the one home of each animal and each habitat."""
