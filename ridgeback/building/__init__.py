"""Building what is planned: steps by thumb, what cures, what holds the animal back, on the screen, on paper and in the calendar."""
