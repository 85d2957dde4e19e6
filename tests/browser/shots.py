"""Takes the pictures in docs/screenshots again, from the demo data: `./saucer shots`. Not collected by the test run."""

from __future__ import annotations

import re
import zipfile
from datetime import date, timedelta
from pathlib import Path

import numpy as np
from allauth.mfa.recovery_codes.internal.auth import RecoveryCodes
from allauth.mfa.totp.internal.auth import TOTP, generate_totp_secret
from allauth.usersessions.models import UserSession
from django.utils import timezone
from playwright.sync_api import Page, expect

from saucer.core.files.format import Options
from saucer.core.files.formats import cube
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.core.lut.domain import grid
from saucer.core.lut.health import BLACK, WHITE
from saucer.core.lut.table import Lattice, Lut
from saucer.demo.seed import PASSWORD, brought_in, load_demo
from saucer.studio.boards.models import Board
from saucer.studio.guests import links as guests
from saucer.studio.people import accounts, links, tokens
from saucer.studio.people.models import Person, Role, Scope
from saucer.studio.pictures.models import Picture
from saucer.studio.projects.models import Project, Shot
from tests.browser.pages import Bench, Shelf, option, sign_in, signed_in, tick
from tests.find import look_named
from tests.make import sample_look

FOLDER = Path(__file__).parents[2] / "docs" / "screenshots"


# Where there is a tray, its discs show the look.
_DISCS = """() => {
  const disc = document.querySelector("nav[aria-label='Test pictures'] button[aria-current] span span");
  return !disc || getComputedStyle(disc).backgroundImage.includes("blob:");
}"""


def take(page: Page, name: str) -> None:
    page.wait_for_function(
        "() => [...document.images].every((image) => image.complete || image.getBoundingClientRect().top > innerHeight)"
    )
    page.wait_for_function(_DISCS)
    page.wait_for_timeout(600)
    FOLDER.mkdir(parents=True, exist_ok=True)
    page.screenshot(path=FOLDER / f"{name}.png")


def find(page: Page, name: str) -> Shelf:
    """Cards far down the wall are not in the page; what is searched for stands at its top."""
    shelf = Shelf(page).open()
    page.get_by_label("Find").fill(name)
    return shelf.enter(name)


def a_pack(path: Path) -> Path:
    """LUTs as a team sends them: in folders, one for log, one of legal range, one broken, one twice."""
    good = sample_look(look_from({"steps": [{"kind": "curves", "blue": [[0, 0.06], [0.5, 0.5], [1, 0.92]]}]}), 33)
    legal = Lut(lattice=Lattice((grid(17).reshape(17, 17, 17, 3) * (WHITE - BLACK) + BLACK).astype(np.float32)))
    with zipfile.ZipFile(path, "w") as archive:
        for name, data in brought_in():
            archive.writestr(f"Camera/{name}", data)
        archive.writestr("Harbour/Night/Lantern glow.cube", cube.write(good.titled("Lantern glow", ("Expects srgb, gives srgb",))))
        archive.writestr("Harbour/Lantern glow.clf", formats()["clf"].write(good, Options()))
        archive.writestr("Orchard/legal range.csp", formats()["csp"].write(legal, Options()))
        archive.writestr("Orchard/comma.cube", b"LUT_3D_SIZE 2\n0 0 0\n0 0,5 0\n")
        archive.writestr("read me.txt", b"hello")
    return path


def test_take_every_picture(page: Page, server, transactional_db, do_jobs, tmp_path: Path):
    # The demo fills an empty studio.
    Picture.objects.all().delete()
    Person.objects.all().delete()
    load_demo(lambda text: None)
    page.goto(server.url)
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    sign_in(page, server.url, "ilse", PASSWORD)
    bench = Bench(page, server.url)
    bench.open(look_named("Low tide gold").pk)
    page.get_by_role("button", name="Step 2: Sea-green to gold").click()
    bench.channel("Blue")
    page.get_by_test_id("compare").hover(position={"x": 420, "y": 230})
    take(page, "bench")
    bench.open(look_named("Ferry lantern").pk)
    bench.search("")
    option(page, "Halation").hover()
    bench.wait_at_rest()
    take(page, "bench-add")
    page.keyboard.press("Escape")
    bench.tray("Six busts")
    page.get_by_role("button", name="Marks over the picture").click()
    page.get_by_role("radio", name="Skin", exact=True).click()
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("marks-legend")).to_be_visible()
    page.keyboard.press("r")
    page.get_by_role("navigation", name="Test pictures").get_by_role("button", name="Table by a window").click()
    page.keyboard.press("y")
    box = page.get_by_test_id("compare").last.bounding_box()
    assert box
    page.mouse.move(box["x"] + 0.42 * box["width"], box["y"] + 0.45 * box["height"])
    page.mouse.down()
    page.mouse.move(box["x"] + 0.58 * box["width"], box["y"] + 0.68 * box["height"], steps=4)
    page.mouse.up()
    expect(page.get_by_text("Means and spread of", exact=False)).to_be_visible()
    page.wait_for_timeout(4000)
    take(page, "bench-reference")
    page.keyboard.press("Escape")
    page.keyboard.press("Shift+R")
    page.get_by_role("button", name="Marks over the picture").click()
    page.get_by_role("radio", name="None", exact=True).click()
    page.keyboard.press("Escape")
    bench.open(look_named("Low tide gold").pk)
    bench.leave()
    page.keyboard.press("w")
    bench.tray("Six busts")
    bench.bake(33, "Low tide gold", "Ilse Harrow")
    do_jobs()
    expect(page.get_by_role("dialog")).to_contain_text("is with the look")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Bake…").click()
    expect(page.get_by_role("dialog").get_by_role("row", name="Colours everywhere")).to_be_visible()
    page.wait_for_timeout(1500)
    take(page, "bake")
    page.keyboard.press("Escape")
    shelf = Shelf(page).open()
    page.get_by_role("radio", name="Light surround").click()
    expect(page.get_by_label("Entries").get_by_role("img").first).to_be_visible()
    page.get_by_label("Find").fill("warm")
    expect(shelf.card("Hearth")).to_be_visible()
    for name in ("Hearth", "Deck lamp"):
        shelf.card(name).hover()
        shelf.card(name).locator("label").click()
    take(page, "shelf")
    page.get_by_role("group", name="What is chosen").get_by_role("button", name="Done").click()
    page.get_by_role("radio", name="Mid grey surround").click()
    page.get_by_label("Find").fill("S-Log3")
    shelf.enter("S-Log3 to Rec.709, soft").choose_picture("Table by a window")
    take(page, "shelf-entry")
    find(page, "Lantern row")
    page.get_by_role("tab", name="Where it breaks").click()
    page.get_by_label("Over").click()
    page.get_by_role("option", name="All pictures").click()
    page.get_by_role("button", name="Test it again").click()
    expect(page.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(page.get_by_text("Least without", exact=False).first).to_be_visible()
    take(page, "where-it-breaks")
    find(page, "Old print, scanned").view("Health")
    expect(page.get_by_role("heading", name="Found: ")).to_be_visible()
    take(page, "lut-health")
    shelf = Shelf(page).open()
    sheet = shelf.read_pack(do_jobs, a_pack(tmp_path / "harbour-pack.zip"))
    expect(sheet.get_by_role("table")).to_be_visible()
    take(page, "pack")
    page.keyboard.press("Escape")
    sheet = shelf.make("Round trip")
    tick(sheet, "Vignette")
    tick(sheet, "JPEG quality")
    sheet.get_by_role("button", name="Recolour and read back").click()
    expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(sheet.get_by_role("list", name="What got in")).to_be_visible()
    take(page, "round-trip")
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Pictures").click()
    take(page, "pictures")
    page.get_by_role("link", name=re.compile("^Encodings")).click()
    film = f"{server.url}/projects/{Project.objects.get().pk}"
    page.goto(film)
    page.get_by_role("button", name="3 Inside 8").click()
    page.get_by_role("group", name="Looks to try").locator("button[title]").nth(3).hover()
    page.wait_for_timeout(3000)
    take(page, "project")
    page.goto(f"{film}/shots/{Shot.objects.get(code='q080 sea road').pk}?beside=plain")
    expect(page.get_by_test_id("player")).to_have_attribute("data-drawn", "1")
    take(page, "shot")
    page.goto(f"{server.url}/start")
    expect(page.get_by_role("heading", name="Waits for you")).to_be_visible()
    page.wait_for_timeout(3000)
    take(page, "start")
    signed_in(page, server.url, Person.objects.get(role="curator"))
    page.goto(f"{server.url}/shelf/review")
    expect(page.get_by_role("img", name="through Hearth").first).to_be_visible()
    take(page, "review")
    page.goto(f"{server.url}/shelf/board/{Board.objects.get().pk}")
    expect(page.get_by_role("rowheader")).to_have_count(5)
    take(page, "board")
    take_guests(page, server.url)
    take_people(page, server.url)


def take_guests(page: Page, url: str) -> None:
    """A wall as somebody without an account sees it."""
    project = Project.objects.select_related("owner").get()
    terms = guests.Terms(timezone.localdate() + timedelta(days=14))
    _, code = guests.make(project.owner, project, terms)
    page.context.clear_cookies()
    page.goto(f"{url}/guest/{code}")
    page.get_by_label("Your name").fill("Wren Ashdown")
    page.keyboard.press("Enter")
    page.get_by_role("group", name="Verdict on q020 ferry").get_by_role("button", name="Maybe").click()
    page.get_by_role("button", name="q020 ferry, larger").click()
    near = page.get_by_role("dialog")
    box = near.get_by_role("img").bounding_box()
    assert box
    for x, y, words in ((0.38, 0.24, "The funnel is lighter than in the shot before"), (0.72, 0.28, "Keep this sky")):
        near.get_by_role("img").click(position={"x": x * box["width"], "y": y * box["height"]})
        near.get_by_label("What about this place?").fill(words)
        page.keyboard.press("Enter")
        expect(near.get_by_text(words)).to_be_visible()
    take(page, "guests")


BROWSER = "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0"


def take_people(page: Page, url: str) -> None:
    """With what a studio has after a while: somebody invited, a program, second factors, somebody who left."""
    admin, curator, designer = (Person.objects.get(role=role) for role in ("admin", "curator", "designer"))
    for somebody in (admin, curator, designer):
        TOTP.activate(somebody, generate_totp_secret())
        RecoveryCodes.activate(somebody)
    links.invite(admin, Role.DESIGNER, "Jana Tolm")
    service = accounts.add_service(admin, "farm", Role.DESIGNER, "Render farm")
    until = date.today() + timedelta(days=90)
    for name, scopes, who in (
        ("nightly sync", [Scope.READ], service), ("rushes", [Scope.READ, Scope.BRING_IN], service), ("my laptop", [Scope.READ], designer),
    ):  # fmt: skip
        tokens.make(admin, who, name, scopes, until)
    left = accounts.add("piet", Role.DESIGNER, "porcelain-and-rain", "Piet Vos")
    accounts.switch(left.username, on=False, by=admin)
    Person.objects.filter(pk__in=[curator.pk, designer.pk]).update(seen=timezone.now() - timedelta(minutes=12))
    signed_in(page, url, admin)
    page.goto(f"{url}/studio/people?who={curator.username}")
    page.get_by_role("list", name="Lately").wait_for()
    UserSession.objects.update(user_agent=BROWSER)
    page.reload()
    expect(page.get_by_role("list", name="Lately")).to_be_visible()
    take(page, "people")
    signed_in(page, url, designer)
    page.goto(f"{url}/you")
    page.get_by_role("table", name="Sessions").wait_for()
    UserSession.objects.update(user_agent=BROWSER)
    page.reload()
    page.get_by_role("heading", name="Second factor").scroll_into_view_if_needed()
    expect(page.get_by_role("table", name="Tokens")).to_be_visible()
    page.get_by_role("button", name="Make a token").scroll_into_view_if_needed()
    take(page, "own")
