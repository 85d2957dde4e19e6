"""What is sent, read so that nothing in it can do harm: counted before anything is built from it, and only text that can be kept."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from django.utils.datastructures import MultiValueDict
from ninja.parser import Parser

from saucer.core.look.extent import check_text, decode_json


class CountingParser(Parser):
    """Raises: LookError, whose words are fit to be shown"""

    def parse_body(self, request: HttpRequest) -> Any:
        return decode_json(request.body)

    def parse_querydict(self, data: MultiValueDict[str, Any], list_fields: list[str], request: HttpRequest) -> dict[str, Any]:
        for name, values in data.lists():
            for value in values:
                if isinstance(value, str):
                    check_text(value, name)
        return super().parse_querydict(data, list_fields, request)
