"""The rota of one habitat: its card, its chores, turns that are moved."""
