"""What is sent, read so that nothing in it can do harm: counted before anything is built from it, and only text that can be kept."""

from __future__ import annotations

import json
from typing import Any

from django.http import HttpRequest
from django.utils.datastructures import MultiValueDict
from ninja.parser import Parser

from saucer.core.errors import LookError
from saucer.core.look.extent import check_extent, check_text


def _no_constant(name: str) -> Any:
    raise LookError("", f"{name} is not a number that can be kept")


class CountingParser(Parser):
    """Raises: LookError, whose words are fit to be shown"""

    def parse_body(self, request: HttpRequest) -> Any:
        try:
            content = json.loads(request.body, parse_constant=_no_constant)
        except json.JSONDecodeError as error:
            raise LookError("", f"not valid JSON: {error.msg} at character {error.pos + 1}") from None
        except UnicodeDecodeError:
            raise LookError("", "not UTF-8 text") from None
        except RecursionError:
            raise LookError("", "nested too deeply") from None
        except ValueError:
            raise LookError("", "holds a number of too many digits") from None
        check_extent(content)
        return content

    def parse_querydict(self, data: MultiValueDict[str, Any], list_fields: list[str], request: HttpRequest) -> dict[str, Any]:
        for name, values in data.lists():
            for value in values:
                if isinstance(value, str):
                    check_text(value, name)
        return super().parse_querydict(data, list_fields, request)
