"""Secrets reach the programs that are started by files in memory, and what is set may stand in a file."""

import os
import subprocess
import sys
from pathlib import Path

import psycopg
import pytest
from django.core.exceptions import ImproperlyConfigured

from launch import passing
from launch.backup import Address
from launch.cluster import LOG_BYTES, Cluster
from launch.machine import Stop
from launch.storage import secret
from ridgeback.environment import Environment

ROOT = Path(__file__).resolve().parents[2]
READS = "from ridgeback.environment import env; print(env.str('RIDGEBACK_SECRET_KEY'), env.str('RIDGEBACK_LOG'))"


def test_a_program_reads_its_secrets_and_its_environment_does_not_hold_them() -> None:
    values = {**os.environ, "RIDGEBACK_SECRET_KEY": "very-secret", "RIDGEBACK_LOG": "json", "PYTHONPATH": str(ROOT)}
    with passing.secrets_apart(values) as (environment, held):
        assert "very-secret" not in "".join(environment.values())
        command = [sys.executable, "-c", READS]
        done = subprocess.run(command, env=environment, pass_fds=held, capture_output=True, text=True, check=True)
    assert done.stdout.split() == ["very-secret", "json"]
    with pytest.raises(OSError, match="Bad file descriptor"):
        os.fstat(held[0])


def test_a_secret_in_a_file_is_handed_on_to_who_may_not_read_the_file(tmp_path: Path) -> None:
    path = tmp_path / "key"
    path.write_text("in-a-file\n")
    path.chmod(0o600)
    with passing.secrets_apart({"RIDGEBACK_SECRET_KEY_FILE": str(path)}) as (environment, held):
        assert environment["RIDGEBACK_SECRET_KEY_FILE"] != str(path)
        assert os.pread(held[0], 100, 0) == b"in-a-file"
        assert os.fstat(held[0]).st_mode & 0o444 == 0o444


def test_what_is_set_may_stand_in_a_file_and_a_missing_file_is_said(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "url"
    path.write_text("postgres://a@b/c\n")
    monkeypatch.setenv("DATABASE_URL", "postgres://from-the-environment/x")
    monkeypatch.setenv("DATABASE_URL_FILE", str(path))
    Environment.ENVIRON.files_cache.clear()
    assert Environment().str("DATABASE_URL") == "postgres://a@b/c" == passing.given("DATABASE_URL")
    monkeypatch.setenv("DATABASE_URL_FILE", str(tmp_path / "nowhere"))
    Environment.ENVIRON.files_cache.clear()
    with pytest.raises(ImproperlyConfigured, match="DATABASE_URL_FILE"):
        Environment().str("DATABASE_URL")
    with pytest.raises(Stop, match="DATABASE_URL_FILE"):
        passing.given("DATABASE_URL")
    Environment.ENVIRON.files_cache.clear()


@pytest.mark.sweep
def test_postgresqls_programs_know_the_password_by_a_file_in_memory(folder: Path) -> None:
    cluster = Cluster(folder, throwaway=True)
    cluster.create()
    cluster.start()
    try:
        with psycopg.connect(cluster.url, autocommit=True) as talk:
            talk.execute("alter role ridgeback_web password 'a:strange\\password'")
        url = cluster.url.split("@")[1]
        address = Address.of(f"postgres://ridgeback_web:a%3Astrange%5Cpassword@{url}", cluster.programs)
        assert "strange" not in "".join(address.environment.values())
        command = address.command("psql", "-AtqX", "-w", "-c", "select 7")
        done = subprocess.run(command, env=address.environment, capture_output=True, text=True)
        assert (done.stdout.strip(), done.stderr) == ("7", "")
    finally:
        cluster.stop()


def test_a_secret_is_on_the_disk_before_it_counts_and_an_empty_one_is_none(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    synced: list[str] = []
    real = os.fsync

    def noted(held: int) -> None:
        synced.append(os.readlink(f"/proc/self/fd/{held}"))
        real(held)

    monkeypatch.setattr(os, "fsync", noted)
    made = secret(folder, "some-key")
    assert synced == [str(folder / ".some-key.part"), str(folder)]  # its content before its name
    assert (folder / "some-key").stat().st_mode & 0o077 == 0
    assert secret(folder, "some-key") == made
    (folder / "some-key").write_text("")  # what a power cut leaves of a file that was not synced
    assert len(secret(folder, "some-key")) > 40


@pytest.mark.sweep
def test_what_a_crash_at_its_start_left_does_not_keep_the_database_from_starting(folder: Path) -> None:
    cluster = Cluster(folder, throwaway=True)
    cluster.create()
    (cluster.files / "postmaster.pid").touch()
    cluster.start()
    cluster.stop()


def test_a_database_that_is_not_let_in_to_is_not_left_running(folder: Path) -> None:
    cluster = Cluster(folder, throwaway=True)
    cluster.create()
    cluster.owner_file.write_text("another password")
    with pytest.raises(Stop, match="own password"):
        cluster.start()
    assert cluster.process is not None
    assert cluster.process.poll() is not None


def test_a_long_log_is_set_aside_and_the_server_writes_on(folder: Path) -> None:
    cluster = Cluster(folder, throwaway=True)
    cluster.log_file.write_text("short\n")
    cluster.keep_log_short()
    assert cluster.log_file.read_text() == "short\n"
    with cluster.log_file.open("ab") as held:  # as the server holds it
        held.write(b"x" * (LOG_BYTES + 1))
        held.flush()
        cluster.keep_log_short()
        held.write(b"and on")
    assert cluster.log_file.read_bytes() == b"and on"
    aside = cluster.log_file.with_name("postgres.log.1")
    assert aside.stat().st_size > LOG_BYTES
    assert aside.stat().st_mode & 0o077 == 0
