"""Drawings of a plan: the section, the floor, the day, the marks; coordinates for the templates."""
