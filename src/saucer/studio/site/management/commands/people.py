"""Accounts from the terminal, for when nobody can get in."""

from __future__ import annotations

import getpass
import secrets
import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from saucer.studio.common.refusals import Refusal
from saucer.studio.people import accounts, links
from saucer.studio.people.models import Role

ROLES = [role.value for role in Role]


class Command(BaseCommand):
    help = "Add people, list them, give them roles and passwords, switch them off and on, unlock them."

    def add_arguments(self, parser: CommandParser) -> None:
        actions = parser.add_subparsers(dest="action", required=True, metavar="ACTION")
        actions.add_parser("list", help="everybody, with role and when they last signed in")
        add = actions.add_parser("add", help="make an account; the password is asked for, or made up where there is no terminal")
        add.add_argument("name")
        add.add_argument("--role", choices=ROLES, default=Role.VIEWER.value)
        add.add_argument("--full-name", default="")
        role = actions.add_parser("role", help="give somebody another role")
        role.add_argument("name")
        role.add_argument("role", choices=ROLES)
        for action, words in (
            ("password", "give somebody a new password"),
            ("link", "a link by which somebody chooses a new password, once"),
            ("factor-lost", "take away somebody's second factor"),
            ("off", "let somebody sign in no more"),
            ("on", "let them in again"),
            ("unlock", "forget the failed tries of a name, or from an address"),
        ):
            actions.add_parser(action, help=words).add_argument("name")

    def handle(self, *args: Any, action: str, **options: Any) -> None:
        try:
            getattr(self, f"_{action.replace('-', '_')}")(options)
        except Refusal as refusal:
            raise CommandError(str(refusal)) from None

    def _list(self, options: dict[str, Any]) -> None:
        for person in accounts.list_people():
            seen = f"{person.last_login:%Y-%m-%d %H:%M}" if person.last_login else "never signed in"
            self.stdout.write(
                f"{person.username:20} {person.role:9} {'' if person.is_active else 'off':4} {seen:17} {person.full_name}"
            )

    def _add(self, options: dict[str, Any]) -> None:
        password, made = _choose_password()
        person = accounts.add(options["name"], Role(options["role"]), password, options["full_name"])
        self.stdout.write(f"{person.username} may sign in as {person.role}.{made}")

    def _role(self, options: dict[str, Any]) -> None:
        person = accounts.give_role(options["name"], Role(options["role"]))
        self.stdout.write(f"{person.username} is {person.role} now.")

    def _password(self, options: dict[str, Any]) -> None:
        password, made = _choose_password()
        accounts.give_password(options["name"], password)
        self.stdout.write(f"{options['name']} has a new password.{made}")

    def _link(self, options: dict[str, Any]) -> None:
        link, code = links.let_choose_password(None, accounts.find(options["name"]))
        self.stdout.write(f"At the studio's address, once, until {link.until:%Y-%m-%d %H:%M} UTC: {links.address_of(code)}")

    def _factor_lost(self, options: dict[str, Any]) -> None:
        accounts.forget_second_factor(options["name"])
        self.stdout.write(f"{options['name']} has no second factor any more.")

    def _off(self, options: dict[str, Any]) -> None:
        accounts.switch(options["name"], on=False)
        self.stdout.write(f"{options['name']} cannot sign in any more.")

    def _on(self, options: dict[str, Any]) -> None:
        accounts.switch(options["name"], on=True)
        self.stdout.write(f"{options['name']} may sign in again.")

    def _unlock(self, options: dict[str, Any]) -> None:
        accounts.unlock(options["name"])
        self.stdout.write(f"Failed tries of {options['name']} are forgotten.")


def _choose_password() -> tuple[str, str]:
    """Typed twice; or made up, with what is told of it once it is kept. Raises: CommandError"""
    if not sys.stdin.isatty():
        made = secrets.token_urlsafe(12)
        return made, f"\nPassword: {made}"
    password = getpass.getpass("Password: ")
    if password != getpass.getpass("Once more: "):
        raise CommandError("The two are not the same.")
    return password, ""
