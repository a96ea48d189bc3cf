"""Writes of the rota, one a file: a meal, a turn moved."""
