"""Writes of the daybook, one a file: readings, chores."""
