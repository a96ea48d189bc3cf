# Sourced by ./start and ./test: finds a Python of at least 3.11 in $python, or says so in one sentence.
python=
for candidate in python3 python3.13 python3.12 python3.11; do
  if command -v "$candidate" >/dev/null 2>&1 &&
     "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
    python=$candidate
    break
  fi
done
if [ -z "$python" ]; then
  echo "Ridgeback needs Python 3.11 or newer and found none; on Debian 12: apt-get install python3 python3-venv" >&2
  exit 1
fi
