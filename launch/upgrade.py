"""Another major version of PostgreSQL: its files are of another form, and the data is carried over by a backup."""

import time
from pathlib import Path

from launch.backup import Address, fill, opened
from launch.backups import make, passphrase
from launch.cluster import Cluster
from launch.machine import Stop, major_of, postgres_bin


def carry_over(data: Path) -> Path | None:
    """Bring a data folder's database to the newest PostgreSQL there is; return where the old files are, None for nothing to do.

    The old version's programs make a backup, the new version's read it into new files, and every table is compared before anything
    goes on. The old files are moved, never deleted; where anything fails they are where they were. Raises Stop.
    """
    newest, old = postgres_bin(), Cluster(data)
    if newest is None or old.major is None or old.major >= major_of(newest):
        return None
    programs = postgres_bin(old.major)
    if programs is None:
        raise Stop(
            f"The data is of PostgreSQL {old.major}, and this machine has only {major_of(newest)}. "
            f"Install the older one beside it once (apt-get install -y postgresql-{old.major}), and the data is carried over; "
            f"or restore a backup into a new folder."
        )
    print(f"Carrying the data from PostgreSQL {old.major} over to {major_of(newest)} …", flush=True)
    old.programs = programs
    old.start()
    try:
        backup = make(Address.of(old.url, programs), data, "upgrade", check=False).path
    finally:
        old.stop()
    aside = data / f"postgres-{old.major}-set-aside-{time.strftime('%Y%m%d-%H%M%S')}"
    kept = {path: path.read_bytes() for path in (old.owner_file, old.password_file)}
    old.files.rename(aside)
    new = Cluster(data, programs=newest)
    try:
        old.password_file.unlink()
        new.create()
        new.start()
        try:
            with opened(backup, passphrase(), data) as found:
                fill(Address.of(new.url, newest), found, data)
        finally:
            new.stop()
    except BaseException:
        if new.files.exists():
            new.files.rename(data / f"postgres-{major_of(newest)}-failed-{time.strftime('%Y%m%d-%H%M%S')}")
        aside.rename(old.files)
        for path, content in kept.items():
            path.write_bytes(content)
        raise
    return aside
