"""Files too long for one request: sent in parts, and read as one file."""
