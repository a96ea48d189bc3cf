"""Writes of keeping, one a file: an entry written, corrected or taken back; an animal described, moved, welcomed, let go."""
