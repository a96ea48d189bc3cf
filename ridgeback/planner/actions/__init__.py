"""Writes of the planner, one a file: a weighing, a score."""
