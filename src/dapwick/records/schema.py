"""The shape of the records: bringing a salon up to date, and knowing a database for what it is before it is trusted."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, Final

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import create_engine, event

from dapwick.core.basics.errors import BadInput

MIGRATIONS: Final = Path(__file__).parent / "migrations"
HEAD: Final = "head"
Shape = frozenset[tuple[str, str, str]]
"""Kind, name and definition of everything in a database."""


def migrate(database: Path, revision: str = HEAD) -> None:
    """Bring a database file up to a revision, in one transaction; nothing is touched where it is there already."""
    if revision == HEAD and revision_of(database) == revisions()[-1]:
        return
    with _unguarded(database) as connection:
        config = _config()
        config.attributes["connection"] = connection
        command.upgrade(config, revision)
        broken = connection.exec_driver_sql("PRAGMA foreign_key_check").first()
        if broken:
            raise BadInput(
                "records that name what is not there", expected="whole records", got=str(broken)[:60],
                where=database.name,
            )  # fmt: skip


@contextmanager
def _unguarded(database: Path) -> Iterator[Any]:
    """A transaction without foreign keys, which tables that are made anew would trip over; checked at its end."""
    engine = create_engine(f"sqlite:///{database}")

    def manual(connection: Any, _record: Any) -> None:
        connection.isolation_level = None
        connection.execute("PRAGMA busy_timeout=5000")

    event.listen(engine, "connect", manual)
    event.listen(engine, "begin", lambda connection: connection.exec_driver_sql("BEGIN IMMEDIATE"))
    try:
        with engine.begin() as connection:
            yield connection
    finally:
        engine.dispose()


def _config() -> Config:
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    return config


@cache
def revisions() -> tuple[str, ...]:
    """Every revision this version knows, the oldest first."""
    scripts = ScriptDirectory.from_config(_config())
    return tuple(script.revision for script in scripts.walk_revisions())[::-1]


def revision_of(database: Path) -> str | None:
    """What a database says it is; None where it does not say."""
    with closing(sqlite3.connect(database)) as connection:
        try:
            rows = connection.execute("SELECT version_num FROM alembic_version").fetchall()
        except sqlite3.OperationalError:
            return None
    return str(rows[0][0]) if len(rows) == 1 else None


def is_up_to_date(database: Path) -> bool:
    """Whether opening it changes nothing; what cannot be read is told when it is opened."""
    try:
        return revision_of(database) == revisions()[-1]
    except sqlite3.DatabaseError:
        return True


def shape_of(database: Path) -> Shape:
    """Tables with their columns, keys and bounds, indexes, and whatever else there is (of which there is nothing in
    ours); told by what they are rather than by how they were written, which differs from migration to migration."""
    with closing(sqlite3.connect(database)) as connection:
        rows = connection.execute("SELECT type, name, sql FROM sqlite_master").fetchall()
        return frozenset(
            (kind, name, _told(connection, kind, name, sql or ""))
            for kind, name, sql in rows
            if not name.startswith("sqlite_")
        )


def _told(connection: sqlite3.Connection, kind: str, name: str, sql: str) -> str:
    if kind != "table":
        return " ".join(sql.split()).replace('"', "")
    asked = ("table_xinfo", "foreign_key_list", "index_list")
    columns, keys, indexes = (
        connection.execute(f"SELECT * FROM pragma_{what}(?)", (name,)).fetchall() for what in asked
    )
    uniques = [
        tuple(row[2] for row in connection.execute("SELECT * FROM pragma_index_info(?)", (index[1],)))
        for index in indexes
        if index[2]
    ]
    words = sql.upper()
    return repr(
        (
            sorted((c[1], c[2], c[3], str(c[4]).strip("()'"), c[5], c[6]) for c in columns),
            sorted(key[2:8] for key in keys),
            sorted(uniques),
            [word in words for word in ("AUTOINCREMENT", "CHECK", "COLLATE", "GENERATED", "STRICT")],
        )
    )


@cache
def known_shape(revision: str) -> Shape:
    """What a salon of a revision looks like, made from nothing."""
    with TemporaryDirectory() as folder:
        database = Path(folder) / "empty.db"
        migrate(database, revision)
        return shape_of(database)


def check_records(database: Path, name: str) -> None:
    """Know a database for a salon's records: readable, whole, of a revision this version knows, of exactly that
    shape. Raises BadInput; reads only. database: a copy that nobody else writes."""
    try:
        _check(database, name)
    except sqlite3.DatabaseError as error:
        raise BadInput(
            "its records cannot be read", expected="a salon's records", got=str(error)[:80], where=name
        ) from error


def _check(database: Path, name: str) -> None:
    with closing(sqlite3.connect(database)) as connection:
        verdict = connection.execute("PRAGMA integrity_check(1)").fetchone()[0]
        broken = connection.execute("PRAGMA foreign_key_check").fetchone()
    if verdict != "ok":
        raise BadInput(
            "its records are damaged", expected="records without a fault", got=str(verdict)[:80], where=name
        )
    revision = revision_of(database)
    if revision not in revisions():
        raise BadInput(
            "its records are of another version", expected=f"a version up to {revisions()[-1]}",
            got=str(revision)[:20], where=name, remedy="Update Dapwick first, then restore it.",
        )  # fmt: skip
    strange = shape_of(database) ^ known_shape(revision)
    if strange:
        kind, what, _ = sorted(strange)[0]
        raise BadInput(
            "its records have another shape", expected=f"those of version {revision}", got=f"{kind} {what[:40]}",
            where=name,
        )  # fmt: skip
    if broken:
        raise BadInput(
            "its records name what is not there", expected="whole records", got=f"table {str(broken[0])[:40]}",
            where=name,
        )  # fmt: skip
