# Sourced by ./start and ./test: finds a Python of at least 3.11 in $python, or says so in one sentence.
# The system's own comes first: Debian builds it with profile-guided optimisation, which one built by hand seldom is (docs/decisions/0117).
python=
for candidate in /usr/bin/python3 python3 python3.13 python3.12 python3.11; do
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
