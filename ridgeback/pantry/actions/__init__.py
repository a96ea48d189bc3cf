"""Writes of the pantry, one a file: stock, deliveries, cultures and gut-loads, taking a meal back."""
