"""Writes of a build, one a file: beginning and settling how, a step done, the end."""
