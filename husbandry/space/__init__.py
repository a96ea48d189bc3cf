"""Enclosure size: the profile's rules applied to this animal."""
