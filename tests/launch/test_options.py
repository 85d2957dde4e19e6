"""The table of settings: what each takes, where it comes from, and what is said of one that cannot be used."""

from __future__ import annotations

from pathlib import Path

import pytest

from saucer import options
from saucer.studio.site.settings_page import settings_text


@pytest.fixture(autouse=True)
def no_settings(monkeypatch: pytest.MonkeyPatch) -> None:
    for option in options.TABLE:
        monkeypatch.delenv(options.PREFIX + option.name, raising=False)


@pytest.mark.parametrize("option", options.TABLE, ids=lambda one: one.name)
def test_every_default_can_be_used_and_is_in_the_documentation(option):
    options.value(option.name)
    assert f"| `SAUCER_{option.name}` |" in settings_text()


@pytest.mark.parametrize(
    ("name", "said", "read"),
    [
        ("HTTPS", "1", True), ("HTTPS", "off", False), ("HOSTS", "a.example, b.example", ["a.example", "b.example"]), ("WEB_THREADS", "8", 8),
        ("SESSION_HOURS", "0.5", 0.5), ("MEDIA", "rushes=/a:more=/b", {"rushes": "/a", "more": "/b"}), ("VIEW", "plain", "plain"),
    ],
)  # fmt: skip
def test_what_is_said_is_read(monkeypatch: pytest.MonkeyPatch, name, said, read):
    monkeypatch.setenv(f"SAUCER_{name}", said)
    assert options.value(name) == read


@pytest.mark.parametrize(
    ("name", "said"),
    [
        ("HTTPS", "maybe"), ("WEB_THREADS", "3"), ("WEB_THREADS", "257"), ("WEB_THREADS", "x"), ("PORT", "0"), ("VIEW", "hard"), ("MEDIA", "/a"),
        ("DATABASE_URL", "mysql://x"), ("BACKUP_KEEP", "0"), ("SESSION_HOURS", "0"),
    ],
)  # fmt: skip
def test_what_cannot_be_used_is_named(monkeypatch: pytest.MonkeyPatch, name, said):
    monkeypatch.setenv(f"SAUCER_{name}", said)
    with pytest.raises(options.OptionError, match=f'SAUCER_{name} is "{said}"; it has to be'):
        options.value(name)
    assert any(name in line for line in options.check_all())


def test_the_file_is_read_and_the_environment_goes_before_it(monkeypatch: pytest.MonkeyPatch, tmp_path: Path):
    (tmp_path / "saucer.env").write_text('# remark\n\nSAUCER_HOSTS = "a.example"\nSAUCER_VIEW=plain\n')
    monkeypatch.setenv("SAUCER_VIEW", "soft")
    monkeypatch.setenv("SAUCER_HOSTS", "")
    monkeypatch.delenv("SAUCER_HOSTS")
    options.load(tmp_path)
    assert (options.value("HOSTS"), options.value("VIEW")) == (["a.example"], "soft")
    monkeypatch.setenv("SAUCER_CONFIG", str(tmp_path / "none.env"))
    with pytest.raises(options.OptionError, match="there is no such file"):
        options.load(tmp_path)


@pytest.mark.parametrize(
    ("line", "words"),
    [("SAUCER_HOST=a", "SAUCER_HOST is no setting"), ("HOSTS=a", "has to be SAUCER_NAME=VALUE"), ("what", "has to be")],
)
def test_a_line_that_says_nothing_is_named(tmp_path: Path, line, words):
    (tmp_path / "saucer.env").write_text(f"SAUCER_VIEW=plain\n{line}\n")
    with pytest.raises(options.OptionError, match=f"line 2: .*{words}"):
        options.load(tmp_path)
