"""Writes of the pantry, one a file: stock, deliveries, taking a meal back."""
