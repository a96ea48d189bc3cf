"""Everything that is written down, one action a file.

Each takes its lock first, looks at what stands inside the lock, writes and logs in one transaction, and raises what it refuses.
"""
