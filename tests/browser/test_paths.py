"""Daily paths, each by as few actions as are written down in docs/paths.md: presses, keys, drops, and runs of typing. None may grow unnoticed."""

from __future__ import annotations

import base64
import re
from pathlib import Path
from typing import Any

from playwright.sync_api import Locator, Page, expect

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.core.lut.table import Lut
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, SeenBy
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.presets import rules as presets
from saucer.studio.projects import rules as projects
from saucer.studio.projects.grade import grading
from saucer.studio.projects.models import DeliveryItem, Layer
from saucer.studio.projects.story import shots
from tests.browser.pages import Bench, eventually
from tests.browser.test_projects import canvas_of
from tests.clips import write
from tests.make import WARM, a_lut

ROOT = Path(__file__).parents[2]
DROP = """([node, name, data]) => {
    const bytes = Uint8Array.from(atob(data), (letter) => letter.charCodeAt(0));
    const transfer = new DataTransfer();
    transfer.items.add(new File([bytes], name));
    const box = node.getBoundingClientRect();
    const at = { clientX: box.x + box.width / 2, clientY: box.y + box.height / 2 };
    for (const kind of ["dragenter", "dragover", "drop"])
        node.dispatchEvent(new DragEvent(kind, { bubbles: true, cancelable: true, dataTransfer: transfer, ...at }));
}"""


def written() -> dict[str, int]:
    """The table of docs/paths.md: a path, and how many actions it takes."""
    rows = re.findall(r"^\| (.+?) \| (\d+) \|", (ROOT / "docs" / "paths.md").read_text(), re.M)
    return {name: int(count) for name, count in rows}


class Counted:
    """What a person does, counted."""

    def __init__(self, page: Page) -> None:
        self.page, self.count = page, 0

    def press(self, target: Locator, **how: Any) -> None:
        self.count += 1
        target.click(**how)

    def key(self, name: str) -> None:
        self.count += 1
        self.page.keyboard.press(name)

    def type(self, text: str) -> None:
        self.count += 1
        self.page.keyboard.type(text)

    def drop(self, target: Locator, name: str, data: bytes) -> None:
        self.count += 1
        handle = target.element_handle()
        self.page.evaluate(DROP, [handle, name, base64.b64encode(data).decode()])

    def done(self, path: str) -> None:
        assert self.count == written()[path], f"{path}: {self.count} actions"


def cube(seed: int) -> bytes:
    lut: Lut = a_lut(5, seed=seed)
    return formats()["cube"].write(lut, PLAIN)


def steps_of(name: str) -> list[dict[str, Any]]:
    content: list[dict[str, Any]] = looks.draft_of(Entry.objects.get(name=name).pk).content["steps"]
    return content


def test_a_lut_from_the_disk_is_a_step_of_the_look_and_seen(bench: Bench):
    page, do = bench.page, Counted(bench.page)
    before = bench.pixels()
    do.drop(page.get_by_test_id("compare").first, "Evening_print.cube", cube(3))
    do.done("A LUT from the disk, seen in a look")
    expect(page.get_by_role("button", name="Step 2: LUT Evening_print")).to_have_attribute("aria-pressed", "true")
    bench.wait_saved()
    eventually(page, lambda: _is_other(bench.pixels(), before))
    assert [step["kind"] for step in steps_of("Salt")] == ["curves", "lut"]
    kept = Entry.objects.get(kind="lut", name="Evening_print")
    assert kept.seen_by == SeenBy.OWNER, "it lies on the Shelf from then on, and is nobody else's business yet"
    bench.undo()
    bench.wait_saved()
    assert [step["kind"] for step in steps_of("Salt")] == ["curves"], "one thing to undo"


def _is_other(now: Any, before: Any) -> None:
    assert now.shape == before.shape
    assert abs(now.astype(int) - before.astype(int)).mean() > 1


def test_it_goes_where_it_is_dropped_and_a_picture_comes_into_view(bench: Bench, tmp_path: Path):
    page, do = bench.page, Counted(bench.page)
    bench.add_step("Tone")
    do.drop(bench.line("Curves"), "First.cube", cube(4))
    expect(page.get_by_role("button", name="Step 2: LUT First")).to_have_attribute("aria-pressed", "true")
    bench.wait_saved()
    assert [step["kind"] for step in steps_of("Salt")] == ["curves", "lut", "tone"]
    do.drop(bench.line("Curves"), "notes.txt", b"nothing")
    expect(page.get_by_text("notes.txt is neither a LUT, a picture, a look nor a pack.")).to_be_visible()
    still = ROOT / "src" / "saucer" / "demo" / "pictures" / "hillside-fog.png"
    do.drop(page.get_by_test_id("compare").first, "Fog on the hill.png", still.read_bytes())
    expect(page.get_by_role("navigation", name="Test pictures").get_by_role("button", name="Fog on the hill")).to_have_attribute(
        "aria-current", "true"
    )
    assert page.url.startswith(f"{bench.url}/bench/"), "the browser has opened none of them"


def test_a_lut_is_swapped_in_place_at_its_strength(bench: Bench, studio: Person):
    for at in range(6):
        luts.bring_in(studio, cube(10 + at), f"Print {at}.cube")
    presets.keep(studio, "Faded", look_from({"steps": [{"kind": "saturation", "factor": 0.6}]}).steps)
    first = luts.bring_in(studio, cube(20), "Tide.cube")
    step = {"kind": "lut", "sha256": luts.first_file(luts.lut_of(first.pk)).blob_id, "title": "Tide", "strength": 0.5}
    look = looks.create(studio, look_from({"name": "Six", "steps": [{"kind": "curves"}, step, {"kind": "tone"}]}))
    bench.open(look.pk)
    bench.choose("Tide")
    page, do = bench.page, Counted(bench.page)
    do.press(page.get_by_role("button", name="Swap…"))
    panel = page.get_by_test_id("add-panel")
    expect(panel.get_by_role("option").first).to_be_visible()
    seen: set[str] = set()
    for _ in range(6):
        do.key("ArrowDown")
        eventually(page, lambda: _is_tried_anew(panel, seen))
    do.key("Enter")
    do.done("A LUT swapped for six others, one kept")
    expect(panel).to_be_hidden()
    bench.wait_saved()
    kept = steps_of("Six")
    assert [one["kind"] for one in kept] == ["curves", "lut", "tone"]
    assert kept[1]["strength"] == 0.5
    assert kept[1]["title"] != "Tide"
    page.get_by_role("button", name="Swap…").click()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Escape")
    expect(panel).to_be_hidden()
    bench.wait_saved()
    assert steps_of("Six") == kept, "Escape brings back what was there"
    # A preset of one step lies there without a mark of its own: any step can be swapped for a preset.
    bench.choose("Tone")
    expect(
        page.get_by_role("region", name="Step: Tone")
    ).to_be_visible()  # on a busy machine the LUT's button is there a moment longer
    page.get_by_role("button", name="Swap…").click()
    expect(panel.get_by_role("option").first).to_contain_text("Faded")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(panel).to_be_hidden()
    bench.wait_saved()
    assert [one["kind"] for one in steps_of("Six")] == ["curves", "lut", "saturation"]


def _is_tried_anew(panel: Locator, seen: set[str]) -> None:
    name = panel.get_by_label("What is being tried").locator("b").inner_text()
    assert name not in seen
    seen.add(name)


def test_a_shots_look_is_swapped_in_place_at_its_strength(bench: Bench, studio: Person):
    entries = []
    for at in range(7):
        draft = looks.create(studio, look_from({"name": f"Print {at}", "steps": [{"kind": "tone", "exposure": at / 4 - 1}]}))
        looks.save_version(studio, draft.pk)
        entries.append(draft)
    project = projects.create(studio, "The Salt Ferry")
    picture = Picture.objects.order_by("pk").values_list("pk", flat=True)[0]
    (shot,) = shots.add_shots(studio, project.pk, [shots.NewShot(picture, "Quay")])
    grading.put_look(studio, project.pk, [shot.pk], entries[0].pk, None, 0.5, False)
    page = bench.arrive(f"/projects/{project.pk}/shots/{shot.pk}")
    seen = {eventually(page, lambda: _lightness(page))}
    do, chooser = Counted(page), page.get_by_test_id("part-chooser")
    do.press(page.get_by_role("button", name="Swap Print 0"))
    expect(chooser.get_by_role("option")).to_have_count(6)
    for _ in range(6):
        do.key("ArrowDown")
        eventually(page, lambda: _is_another(page, seen))
    name = chooser.get_by_role("option").nth(5).locator("b").inner_text()
    do.key("Enter")
    do.done("A shot's look swapped for six others, one kept")
    expect(chooser).to_have_count(0)
    expect(page.get_by_text("Kept.")).to_be_visible()
    expect(page.get_by_role("button", name=f"Swap {name}")).to_be_focused()
    kept = Layer.objects.get()
    assert (kept.version.entry.name, kept.strength, kept.role) == (name, 0.5, "look")
    now = {_lightness(page)}
    page.keyboard.press("Enter")
    expect(chooser.get_by_role("option")).to_have_count(6)
    page.keyboard.press("ArrowDown")
    eventually(page, lambda: _is_another(page, now))
    page.keyboard.press("Escape")
    expect(chooser).to_have_count(0)
    expect(page.get_by_role("button", name=f"Swap {name}")).to_be_focused()
    assert Layer.objects.get() == kept, "Escape leaves what was there"


def _lightness(page: Page) -> float:
    light = round(float(canvas_of(page).mean()), 1)
    assert light > 1
    return light


def _is_another(page: Page, seen: set[float]) -> None:
    light = _lightness(page)
    assert min(abs(light - one) for one in seen) > 0.3
    seen.add(light)


def test_points_of_a_curve_are_typed_as_a_list(bench: Bench, studio: Person):
    bench.choose("Curves")
    do = Counted(bench.page)
    do.press(bench.page.get_by_role("button", name="As a list…"))
    do.type("0-20, 40-44, 70-78, 120-118, 160-150, 255-190\n")
    do.done("Six points of a curve by number")
    bench.wait_saved()
    (step,) = steps_of("Salt")
    assert [[round(one * 255) for one in point] for point in step["master"]] == [
        [0, 20], [40, 44], [70, 78], [120, 118], [160, 150], [255, 190]]  # fmt: skip


def test_one_comes_back_to_where_one_was(bench: Bench, studio: Person):
    page = bench.page
    bench.add_step("Tone")
    bench.tray("Chart")
    page.keyboard.press("w")
    bench.wait_saved()
    expect(page).to_have_url(re.compile("picture=.*compare=wipe|compare=wipe.*picture="))
    was = page.url  # only now: the address follows what is done a moment later, and so does what is remembered of it
    eventually(page, lambda: page.evaluate("() => Object.values(localStorage).some((one) => one.includes('compare=wipe'))"))
    later = looks.create(studio, look_from({"name": "Later", "steps": [WARM]}))
    page.get_by_role("link", name="Shelf").click()
    do = Counted(page)
    do.press(page.get_by_role("link", name="Bench"))
    expect(page).to_have_url(was)
    expect(page.get_by_role("region", name="Step: Tone")).to_be_visible()
    page.goto(bench.url)
    expect(page).to_have_url(was)
    do.done("Back where one was")
    assert str(later.pk) not in was


def test_a_look_is_found_by_what_it_does_and_put_on_a_scene(bench: Bench, studio: Person):
    project = projects.create(studio, "The Salt Ferry")
    two = list(Picture.objects.order_by("pk")[:2])
    shots.add_shots(studio, project.pk, [shots.NewShot(one.pk, "Quay") for one in two])
    warm = looks.create(studio, look_from({"name": "Hearth", "steps": [{"kind": "white-balance", "warm": 40}]}))
    looks.save_version(studio, warm.pk)
    page = bench.arrive(f"/projects/{project.pk}")
    do = Counted(page)
    do.press(page.get_by_role("button", name="Quay 2"))
    foot = page.get_by_role("group", name="What is chosen")
    do.press(foot.get_by_role("searchbox", name="Find a look"))
    do.type("golden")
    do.press(foot.get_by_role("button", name="Hearth", exact=True))
    expect(foot.get_by_text("Hearth is on 2 shots.")).to_be_visible()
    do.done("A look found by what it does and put on a scene")
    assert Layer.objects.filter(version__entry=warm.pk).count() == 2


def test_everything_on_the_wall_is_chosen_by_two_keys_and_one_by_a_press(bench: Bench, studio: Person):
    project = projects.create(studio, "The Salt Ferry")
    three = list(Picture.objects.order_by("pk")[:3])
    shots.add_shots(studio, project.pk, [shots.NewShot(one.pk, "Quay") for one in three])
    page = bench.arrive(f"/projects/{project.pk}")
    cards = page.locator("main button[aria-pressed]").filter(has=page.locator("img"))
    expect(cards).to_have_count(3)
    pressed = page.locator("main button[aria-pressed=true]").filter(has=page.locator("img"))
    page.keyboard.press("Control+a")
    expect(pressed).to_have_count(3)
    cards.nth(1).click()
    expect(pressed).to_have_count(1)
    cards.nth(0).click(modifiers=["Control"])
    expect(pressed).to_have_count(2)
    expect(page.get_by_role("button", name="Approve 2 shots")).to_be_visible()


EDL = b"TITLE: FERRY\nFCM: NON-DROP FRAME\n\n001  AX       V     C        00:00:00:00 00:00:01:00 01:00:00:00 01:00:01:00\n* FROM CLIP NAME: nothing.mov\n"


def test_what_is_dropped_on_the_wall_goes_where_it_was_dropped(bench: Bench, studio: Person):
    project = projects.create(studio, "The Salt Ferry")
    two = list(Picture.objects.order_by("pk")[:2])
    shots.add_shots(studio, project.pk, [shots.NewShot(one.pk, name) for one, name in zip(two, ("Quay", "Deck"), strict=True)])
    page = bench.arrive(f"/projects/{project.pk}")
    foot, do = page.get_by_role("group", name="What is chosen"), Counted(page)
    quay, deck = page.get_by_role("region", name="Quay"), page.get_by_role("region", name="Deck")
    do.drop(deck.locator("[data-shot]"), "Print.cube", cube(5))
    expect(foot.get_by_text("Print is on 1 shot.")).to_be_visible()
    do.done("A LUT from the disk on a shot")
    assert [one.shot.scene.name for one in Layer.objects.select_related("shot__scene")] == ["Deck"]
    still = ROOT / "src" / "saucer" / "demo" / "pictures" / "hillside-fog.png"
    do.drop(quay.locator("[data-shot]"), "Fog.png", still.read_bytes())
    expect(quay.locator("[data-shot]")).to_have_count(2)
    do.drop(quay.locator("[data-shot]").first, "ferry.edl", EDL)
    sheet = page.get_by_role("dialog", name="Shots out of a timeline")
    expect(sheet.get_by_role("cell", name="nothing", exact=True)).to_be_visible()
    expect(sheet.get_by_label("Scene for these shots")).to_have_value("ferry")


def test_a_hundred_clips_come_into_scenes_through_a_look_and_leave(bench: Bench, studio: Person, tmp_path: Path):
    warm = looks.create(studio, look_from({"name": "Hearth", "steps": [{"kind": "white-balance", "warm": 40}]}))
    looks.save_version(studio, warm.pk)
    one = write(tmp_path / "one.mp4", count=2)
    clips = [one.rename(tmp_path / f"deck_{1:03d}.mp4")]
    for number in range(2, 101):
        clips.append(tmp_path / f"{'deck' if number <= 50 else 'mast'}_{number:03d}.mp4")
        clips[-1].write_bytes(clips[0].read_bytes())
    page = bench.arrive("/projects")
    do = Counted(page)
    do.press(page.get_by_label("Name", exact=True))
    do.type("The Salt Ferry\n")
    do.press(page.get_by_role("button", name="Bring shots in"))
    sheet = page.get_by_role("dialog")
    do.press(sheet.get_by_role("radio", name="In files"))
    with page.expect_file_chooser() as chooser:
        do.press(sheet.get_by_role("button", name="Drop stills, clips and numbered frames here"))
    do.count += 1  # choosing them all in the system's own window
    chooser.value.set_files(clips)
    # Scenes out of their names are proposed.
    do.press(sheet.get_by_role("button", name="Bring in 100"))
    expect(page.get_by_role("button", name="deck 50")).to_be_visible()
    expect(page.get_by_role("button", name="mast 50")).to_be_visible()
    do.key("Control+a")
    foot = page.get_by_role("group", name="What is chosen")
    do.press(foot.get_by_role("button", name="Hearth", exact=True))
    expect(foot.get_by_text("Hearth is on 100 shots.")).to_be_visible()
    do.press(page.get_by_role("button", name="Deliver", exact=True))
    # What the project holds is what leaves: clips.
    expect(sheet.get_by_text("Delivery 1: 100 files")).to_be_visible()
    do.press(sheet.get_by_role("button", name="Deliver", exact=True))
    expect(page.get_by_role("heading", name="Delivery 1")).to_be_visible()
    do.done("A hundred clips into scenes, through a look, delivered")
    assert DeliveryItem.objects.filter(kind="clip").count() == 100


def test_a_newcomers_first_bake_on_a_picture_of_their_own(bench: Bench, do_jobs):
    page, do = bench.page, Counted(bench.page)
    still = ROOT / "src" / "saucer" / "demo" / "pictures" / "hillside-fog.png"
    do.drop(page.get_by_test_id("compare").first, "Fog.png", still.read_bytes())
    expect(page.get_by_label("Fog, through the look")).to_be_visible()
    do.key("a")
    do.type("split")
    do.key("Enter")
    do.press(page.get_by_role("button", name="Bake…"))
    sheet = page.get_by_role("dialog")
    do.press(sheet.get_by_role("button", name="Bake", exact=True))
    expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    with page.expect_download() as taken:
        do.press(sheet.get_by_role("link", name="Download it"))
    assert taken.value.suggested_filename.endswith(".cube")
    do.done("A newcomer's first bake, on a picture of their own")


def test_the_exposure_of_a_scene_is_corrected_for_all_its_shots(bench: Bench, studio: Person):
    project = projects.create(studio, "The Salt Ferry")
    two = list(Picture.objects.order_by("pk")[:2])
    shots.add_shots(studio, project.pk, [shots.NewShot(one.pk, "Quay") for one in two])
    page = bench.arrive(f"/projects/{project.pk}")
    do = Counted(page)
    do.press(page.get_by_role("button", name="Quay 2"))
    do.press(page.get_by_label("Exposure, stops"))
    do.type("0.3\n")
    do.done("A scene's exposure, corrected for all its shots")

    def corrected() -> None:
        found = [layer.steps for layer in Layer.objects.filter(shot__scene__project=project.pk)]
        assert [[(step["kind"], step["exposure"]) for step in steps] for steps in found] == [[("tone", 0.3)]] * 2

    eventually(page, corrected)


def test_where_each_person_begins(bench: Bench, studio: Person):
    page = bench.arrive("/")
    expect(page).to_have_url(re.compile(r"/bench/\d+"))
    viewer = Person.objects.create_user("nadia", password="porcelain-and-ink", role="viewer")
    page = bench.enter_as(viewer).arrive("/")
    expect(page).to_have_url(re.compile("/shelf$"))
    page.get_by_role("link", name="Saucer: to the start page").click()
    expect(page.get_by_role("heading", name="Waits for you")).to_be_visible()
    expect(page.get_by_role("button", name="New look")).to_have_count(0)


def test_a_new_look_is_told_what_its_pictures_are_begins_with_a_recipe_and_is_kept_to_oneself(bench: Bench, studio: Person):
    page = bench.arrive("/shelf")
    page.get_by_role("button", name="New look").click()
    page.get_by_role("radio", name="Log video").click()
    page.get_by_role("button", name="Firm and plain").click()
    expect(page.get_by_role("heading", name="What are your pictures?")).to_have_count(0)
    page.get_by_role("button", name="Who sees it: All who design see it").click()
    page.get_by_role("radio", name="Only me").click()
    expect(page.get_by_role("button", name="Who sees it: Only its owner sees it")).to_be_visible()
    bench.wait_saved()
    made = Entry.objects.get(name="Untitled look")
    content = looks.draft_of(made).content
    assert [step["kind"] for step in content["steps"]] == ["convert", "tone", "saturation"]
    assert (content["output"], made.seen_by) == ("rec709", SeenBy.OWNER)
    other = Person.objects.create_user("mira", password="porcelain-and-ink", role="curator")
    bench.enter_as(other)
    page = bench.arrive("/shelf?q=untitled")
    expect(page.get_by_text("Nothing here is called “untitled”.")).to_be_visible()
    page = bench.arrive(f"/bench/{made.pk}")
    expect(page.get_by_text(re.compile("There is no such look"))).to_be_visible()


def test_another_look_is_searched_starred_compared_and_opened(bench: Bench, studio: Person):
    hearth = looks.create(studio, look_from({"name": "Hearth", "steps": [{"kind": "white-balance", "warm": 40}]}))
    page = bench.page
    page.get_by_role("button", name="Other looks").click()
    page.keyboard.type("golden")
    # Not those of before: what is found stands under a heading of its own.
    expect(page.get_by_role("group", name="Found").get_by_role("option", name="Hearth")).to_be_visible()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Alt+s")
    eventually(page, lambda: _has_star(studio, hearth.pk))
    page.keyboard.press("Shift+Enter")
    expect(page).to_have_url(re.compile(f"against=look-{hearth.pk}"))
    page.get_by_role("button", name="Other looks").click()
    expect(page.get_by_role("option").first).to_contain_text("Hearth")
    expect(page.get_by_role("group", name="Starred")).to_be_visible()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(f"/bench/{hearth.pk}"))


def _has_star(person: Person, pk: int) -> None:
    assert pk in catalogue.list_favourites(person, "look")


def test_a_lut_of_the_shelf_is_put_into_a_look_and_a_look_that_is_not_ones_own_becomes_it(bench: Bench, studio: Person):
    lut = luts.bring_in(studio, cube(7), "Tide.cube")
    page = bench.arrive(f"/shelf/lut/{lut.pk}")
    do = Counted(page)
    do.press(page.get_by_role("button", name="Put into a look…"))
    do.type("Salt")
    expect(page.get_by_role("group", name="Found").get_by_role("option", name="Salt")).to_be_visible()
    do.key("Enter")
    do.done("A LUT of the Shelf put into a look")
    expect(page).to_have_url(re.compile("/bench/"))
    eventually(page, lambda: _ends_with_a_lut("Salt"))
    other = Person.objects.create_user("mira", password="porcelain-and-ink", role="designer")
    bench.enter_as(other)
    mine = Entry.objects.get(name="Salt")
    bench.arrive(f"/bench/{mine.pk}")
    page.get_by_role("button", name="Make your own of it").click()
    expect(page.get_by_label("Name of the look")).to_have_value("Salt, mine")
    made = Entry.objects.get(name="Salt, mine")
    assert made.owner == other
    assert [one["kind"] for one in looks.draft_of(made.pk).content["steps"]] == ["curves", "lut"]


def _ends_with_a_lut(name: str) -> None:
    assert [one["kind"] for one in steps_of(name)] == ["curves", "lut"]
