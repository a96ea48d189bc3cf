"""Searches over plans: the first proposal, rigs, ways to mount a lamp, what if, steps of enclosures, the year outdoors."""
