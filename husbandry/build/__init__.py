"""From a plan to the evening the animal moves in: steps in order, what must cure, when there is time, what may not be missed."""
