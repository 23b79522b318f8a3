"""The command line: `solve` of the core, and what keeps the server."""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Callable, Sequence
from pathlib import Path

from thermaxis import cli

WRONG = 2


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command line; return the exit status (0 done, 1 found something wrong, 2 a file or argument is wrong)."""
    parser, commands = cli.parsers()

    def add(name: str, words: str) -> argparse.ArgumentParser:
        found: argparse.ArgumentParser = commands.add_parser(name, help=words)
        return found

    add("serve", "serve what is in the database")
    add("migrate", "bring the database to this version; a backup is made before")
    add("doctor", "look after the server's health")
    backup = add("backup", "write everything into one file, while the server runs")
    restore = add("restore", "put a backup back; what was there is kept aside")
    for command in (backup, restore):
        command.add_argument("file", type=Path, metavar="FILE")
        command.add_argument("--passphrase-file", type=Path, metavar="FILE", help="a file whose first line locks it")
    password = add("password", "an address by which somebody sets another password, where no owner can give one")
    password.add_argument("name", metavar="NAME")
    options = parser.parse_args(arguments)
    if options.command == "solve":
        return cli.run(options)
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "thermaxis.config.settings")
    # What is made here, the database first of all, is nobody else's to read.
    os.umask(0o077)
    if options.command == "serve":
        from thermaxis.config import server

        return server.main()
    import django

    django.setup()
    return _guarded(COMMANDS[options.command], options)


def _guarded(run: Callable[[argparse.Namespace], int], options: argparse.Namespace) -> int:
    from django.db import DatabaseError

    from thermaxis.core.errors import ThermaxisError

    try:
        return run(options)
    except (OSError, DatabaseError, ThermaxisError) as error:
        print(error, file=sys.stderr)
        return WRONG


def _passphrase(path: Path | None) -> str | None:
    # Never an argument: those every user of the machine can read.
    return path.read_text("utf-8").split("\n")[0] if path is not None else None


def _backup(options: argparse.Namespace) -> int:
    from thermaxis.apps.safekeeping.backing_up import back_up

    head = back_up(options.file.resolve(), _passphrase(options.passphrase_file))
    lock = ", locked by the passphrase" if head.locked else ""
    print(f"{options.file}: everything as of {head.made_at}, version {head.version}{lock}")
    return 0


def _restore(options: argparse.Namespace) -> int:
    from django.conf import settings

    from thermaxis.apps.safekeeping.backing_up import backups_folder, workroom
    from thermaxis.apps.safekeeping.restoring import check, put_back
    from thermaxis.config.alone import hold

    if not hold(settings.VAR):
        print("The server runs: stop it first, or restore from its page, under Settings and Backup.", file=sys.stderr)
        return WRONG
    with workroom() as room:
        checked = check(options.file, room, _passphrase(options.passphrase_file))
        aside = put_back(checked)
    print(f"Everything is as of {checked.head.made_at}. Everybody signs in again; API keys are to be made again.")
    for what, count in checked.ended.items():
        if count:
            print(f"Ended since, and ended again: {count} {what.replace('_', ' ')}.")
    if aside is not None:
        print(f"What was there is kept as {backups_folder() / aside.name}.")
    return 0


def _doctor(options: argparse.Namespace) -> int:
    from django.utils import timezone

    from thermaxis.apps.safekeeping.doctor import examine

    found = examine(timezone.now())
    for row in found:
        print(f"{row.state:5}  {row.name:10}  {row.text}")
        if row.do:
            print(f"{'':19}{row.do}")
    return 1 if any(row.state == "over" for row in found) else 0


def _migrate(options: argparse.Namespace) -> int:
    from thermaxis.apps.safekeeping.restoring import migrate_live

    wrong = migrate_live()
    if wrong:
        print(f"The database is as it was: bringing it to this version failed. {wrong}", file=sys.stderr)
        return 1
    return 0


def _password(options: argparse.Namespace) -> int:
    from thermaxis.apps.accounts.public import public_address
    from thermaxis.apps.people.addresses import reset_address

    secret = reset_address(options.name)
    if secret is None:
        print(f"Nobody here is called {options.name}.", file=sys.stderr)
        return WRONG
    print(f"{public_address()}join#{secret}")
    return 0


COMMANDS: dict[str, Callable[[argparse.Namespace], int]] = {
    "backup": _backup,
    "restore": _restore,
    "doctor": _doctor,
    "migrate": _migrate,
    "password": _password,
}

if __name__ == "__main__":
    sys.exit(main())
