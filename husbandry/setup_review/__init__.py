"""A set-up that stands, told in a few words: what is wrong in it for sure, what may be, and the one question to ask."""
