"""The demo's data: `python -m saucer.demo load` puts in what is not there yet, `python -m saucer.demo sign-ins` prints who can sign in."""

from __future__ import annotations

import os
import sys

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer.studio.site.settings")
django.setup()

from saucer.demo.seed import PASSWORD, PEOPLE, load_demo  # noqa: E402  models can be imported only now


def print_sign_ins() -> None:
    print(f"Sign in with one of these, password {PASSWORD}")
    for username, name, role in PEOPLE:
        print(f"  {username:8} {name}, {role}")


if __name__ == "__main__":
    match sys.argv[1:]:
        case ["load"]:
            load_demo(lambda text: print(text, flush=True))
        case ["sign-ins"]:
            print_sign_ins()
        case _:
            sys.exit(__doc__)
