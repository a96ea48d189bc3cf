"""Ultraviolet at the animal's back, and day length."""
