"""What ./start and ./test do before Django exists: standard library only."""
