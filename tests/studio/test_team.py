"""People as admins have them: invited, given roles, switched off, unlocked, followed, handed over."""

from __future__ import annotations

import threading
from io import StringIO

import pytest
from django.contrib.sessions.models import Session
from django.core import mail
from django.core.management import call_command
from django.db import connection
from django.test import Client, override_settings

from saucer.core.look.model import look_from
from saucer.studio.boards import rules as boards
from saucer.studio.catalogue.models import Entry
from saucer.studio.common.refusals import NotPossible
from saucer.studio.looks import rules as looks
from saucer.studio.people import accounts, links, tries
from saucer.studio.people.models import Activity, Link, Person, Role
from tests.make import WARM
from tests.studio.api import Api
from tests.studio.conftest import api_for, person
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db
PASSWORD = "quite-another-one"


@pytest.fixture
def root(db) -> Person:
    return person("admin", "root")


def look_of(somebody: Person, name: str) -> int:
    return looks.create(somebody, look_from({"name": name, "steps": [WARM]})).pk


def use(path: str, status: int = 200, **given: str) -> tuple[Api, dict]:
    api = api_for(None)
    return api, api.expect(status, "POST", f"/links/{path.rsplit('/', 1)[1]}", {"password": PASSWORD} | given)


def member(api: Api, name: str) -> dict:
    return next(one for one in api.get("/team")["members"] if one["username"] == name)


def test_an_invitation_makes_one_account_and_no_second(root):
    api = api_for(root)
    made = api.expect(200, "POST", "/team/invites", {"role": "designer", "full_name": "Jana Tolm"})
    assert [one["full_name"] for one in api.get("/team")["invites"]] == ["Jana Tolm"]
    code = made["path"].rsplit("/", 1)[1]
    told = api_for(None).get(f"/links/{code}")
    assert (told["purpose"], told["role"], told["full_name"], told["username"]) == ("invite", "designer", "Jana Tolm", None)
    assert any("10 characters" in rule for rule in told["password_rules"])
    assert code not in str(list(Link.objects.values())), "only its hash is kept"
    use(made["path"], 422, username="root")  # taken
    use(made["path"], 422, username="jana", password="short")
    newcomer, session = use(made["path"], username="jana")
    assert (session["person"]["name"], session["may"]) == ("Jana Tolm", ["design"])
    assert newcomer.get("/own")["username"] == "jana"
    use(made["path"], 404, username="jana2")
    assert api.get("/team")["invites"] == []
    assert [(one.person, one.action) for one in Activity.objects.filter(action__in=["invite", "add person"])] == [
        (root, "add person"),
        (root, "invite"),
    ]


def test_an_invitation_ends_by_time_and_when_it_is_taken_back(root):
    api = api_for(root)
    first, second = (api.expect(200, "POST", "/team/invites", {"role": "viewer"}) for _ in range(2))
    api.expect(204, "DELETE", f"/team/invites/{api.get('/team')['invites'][0]['id']}")
    use(second["path"], 404, username="two")
    Link.objects.update(until="2001-01-01T00:00Z")
    use(first["path"], 404, username="one")
    assert set(Person.objects.values_list("username", flat=True)) == {"root"}


@override_settings(MAIL=True)
@pytest.mark.django_db(transaction=True)
def test_an_invitation_is_mailed_where_mail_is_set_up(root):
    api = api_for(root)
    made = api.expect(200, "POST", "/team/invites", {"role": "viewer", "email": "jana@studio.example"})
    assert made["mailed_to"] == "jana@studio.example"
    assert mail.outbox == [], "a worker sends it"
    run_worker()
    (sent,) = mail.outbox
    assert sent.to == ["jana@studio.example"]
    assert made["path"] in sent.body
    api.expect(422, "POST", "/team/invites", {"role": "viewer", "email": "no address"})


@override_settings(MAIL=True)
@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("name", ["designer", "DESIGNER@studio.example", "nobody", "without"])
def test_who_forgot_the_password_gets_a_link_by_mail_and_nobody_learns_who_is_there(designer, name):
    Person.objects.filter(pk=designer.pk).update(email="designer@studio.example")
    person("viewer", "without")
    api = api_for(None)
    assert api.call("POST", "/forgotten", {"name": name}).status_code == 204
    run_worker()
    assert [one.to for one in mail.outbox] == ([["designer@studio.example"]] if name.lower().startswith("designer") else [])
    if mail.outbox:
        path = next(line for line in mail.outbox[0].body.splitlines() if "/link/" in line)
        use(path)
        api_for(None).expect(200, "POST", "/session", {"username": "designer", "password": PASSWORD})
        run_worker()
        assert mail.outbox[1].body.startswith("Your password was changed.")


def test_links_are_asked_for_ten_times_at_most(db):
    statuses = [api_for(None).call("POST", "/forgotten", {"name": f"one{number}"}).status_code for number in range(12)]
    assert statuses == [204] * 10 + [429] * 2


def test_a_link_for_a_password_sets_it_once_ends_the_one_before_and_lifts_the_hold(root, designer):
    api = api_for(root)
    for _ in range(6):
        tries.note_failed("designer", "127.0.0.1")
    assert member(api, "designer")["is_held"]
    before, made = (api.expect(200, "POST", "/team/designer/link") for _ in range(2))
    use(before["path"], 404)
    newcomer, session = use(made["path"])
    assert session["person"]["username"] == "designer"
    use(made["path"], 404)
    assert not member(api, "designer")["is_held"]
    api_for(None).expect(200, "POST", "/session", {"username": "designer", "password": PASSWORD})
    assert newcomer.get("/session")["person"] is not None


def test_the_first_link_makes_an_admin_names_the_studio_and_is_nobodys_else():
    ended, code = links.make_first(), links.make_first()
    assert ended
    assert code
    use(f"/link/{ended}", 404, username="other")
    _, session = use(f"/link/{code}", username="otis", full_name="Otis Fenn", studio="North Light")
    assert session["may"] == ["design", "curate", "administer"]
    assert links.make_first() is None, "there is an admin"
    use(f"/link/{code}", 404, username="other")
    assert api_for(Person.objects.get()).get("/studio")["name"] == "North Light"


@pytest.mark.parametrize(
    ("hosts", "https", "root", "told"),
    [
        (["127.0.0.1", "localhost"], False, "http://127.0.0.1:8400", "http://127.0.0.1:8400"),
        (["127.0.0.1"], False, "http://0.0.0.0:8400", "http://127.0.0.1:8400"),
        (["studio.example"], False, "http://127.0.0.1:8400", "http://studio.example:8400"),
        (["studio.example"], True, "http://127.0.0.1:8400", "https://studio.example"),
    ],
)
def test_the_first_link_is_printed_as_it_is_reached(settings, hosts, https, root, told):
    settings.ALLOWED_HOSTS, settings.HTTPS, out = hosts, https, StringIO()
    call_command("first", root, stdout=out)
    assert out.getvalue().splitlines()[1].startswith(f"  {told}/link/")
    person("admin", "root")
    call_command("first", root, stdout=(nothing := StringIO()))
    assert nothing.getvalue() == ""


def test_a_first_link_is_void_once_an_admin_came_otherwise():
    code = links.make_first()
    person("admin", "root")
    use(f"/link/{code}", 404, username="other")


@pytest.mark.django_db(transaction=True)
def test_one_link_used_by_two_at_once_makes_one_account():
    code, statuses = links.make_first(), []

    def go(name: str) -> None:
        try:
            links.use(code, PASSWORD, name)
            statuses.append("in")
        except Exception as error:
            statuses.append(type(error).__name__)
        finally:
            connection.close()

    threads = [threading.Thread(target=go, args=(name,)) for name in ("one", "two")]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(statuses) == ["NotFound", "in"]
    assert Person.objects.count() == 1


def test_the_last_admin_stays_one(root):
    api = api_for(root)
    api.expect(422, "PATCH", "/team/root", {"role": "viewer"})
    told = api.expect(422, "PATCH", "/team/root", {"is_active": False})
    assert told["detail"] == "Root is the only admin. Make somebody else one first."
    second = person("admin", "second")
    accounts.switch("second", on=False)
    api.expect(422, "PATCH", "/team/root", {"role": "viewer"})
    accounts.switch("second", on=True)
    api.expect(204, "PATCH", "/team/root", {"role": "viewer"})
    api.expect(403, "GET", "/team")
    assert api_for(second).get("/session")["may"] == ["design", "curate", "administer"]


def test_what_is_refused_of_a_change_leaves_the_rest_as_it_was(root, designer):
    api_for(root).expect(422, "PATCH", "/team/designer", {"role": "curator", "email": "none"})
    assert Person.objects.get(pk=designer.pk).role == Role.DESIGNER


def test_who_is_switched_off_is_out_at_once_and_keeps_the_name_on_what_they_made(root, designer):
    made = look_of(designer, "Salt")
    own = api_for(None)
    own.expect(200, "POST", "/session", {"username": "designer", "password": "a-long-password"})
    open_link = api_for(root).expect(200, "POST", "/team/designer/link")
    api_for(root).expect(204, "PATCH", "/team/designer", {"is_active": False})
    own.expect(401, "GET", "/own")
    use(open_link["path"], 404)
    own.expect(422, "POST", "/session", {"username": "designer", "password": "a-long-password"})
    assert Entry.objects.get(pk=made).owner == designer
    api_for(root).expect(204, "PATCH", "/team/designer", {"is_active": True})
    own.expect(200, "POST", "/session", {"username": "designer", "password": "a-long-password"})


def test_sessions_are_listed_and_ended_one_or_all_others(root, designer):
    browsers = []
    for said in ("Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0", "curl/8.0", ""):
        client = Client(enforce_csrf_checks=True, HTTP_USER_AGENT=said, REMOTE_ADDR="192.0.2.7")
        browsers.append(Api(client))
        browsers[-1].expect(200, "POST", "/session", {"username": "designer", "password": "a-long-password"})
    here = browsers[0]
    shown = here.get("/own/sessions")
    assert {(one["browser"], one["address"]) for one in shown} == {
        ("Firefox on Linux", "192.0.2.7"),
        ("curl", "192.0.2.7"),
        ("a program", "192.0.2.7"),
    }
    assert [one["browser"] for one in shown if one["is_this"]] == ["Firefox on Linux"]
    curl = next(one["id"] for one in shown if one["browser"] == "curl")
    api_for(person("designer", "other")).expect(404, "DELETE", f"/own/sessions/{curl}")
    here.expect(204, "DELETE", f"/own/sessions/{curl}")
    browsers[1].expect(401, "GET", "/own")
    here.expect(204, "DELETE", "/own/sessions")
    browsers[2].expect(401, "GET", "/own")
    assert [one["is_this"] for one in here.get("/own/sessions")] == [True]
    api_for(root).expect(204, "DELETE", "/team/designer/sessions")
    here.expect(401, "GET", "/own")


def test_what_an_open_page_asks_for_by_itself_keeps_nobody_signed_in(root, designer):
    api = api_for(root)
    for path in ("/jobs", "/notices", "/stamp", "/studio/well", "/review/queue"):
        api.get(path)
        Person.objects.filter(pk=root.pk).update(seen=None)
        session = api.client.session
        session.pop("seen at", None)
        session.save()
        api.get(path)
        assert Person.objects.get(pk=root.pk).seen is None, path
    api.get("/own")
    assert Person.objects.get(pk=root.pk).seen is not None


def test_a_session_ends_after_its_days_whatever_is_done_in_it(designer, settings):
    api = api_for(None)
    api.expect(200, "POST", "/session", {"username": "designer", "password": "a-long-password"})
    session = api.client.session
    session["began"] -= settings.SESSION_DAYS * 86_400 - 60
    session.save()
    api.get("/own")
    session = api.client.session
    session["began"] -= 61
    session.save()
    api.expect(401, "GET", "/own")
    assert not Session.objects.filter(session_key=session.session_key).exists()


@override_settings(MAIL=True)
@pytest.mark.django_db(transaction=True)
def test_what_was_changed_of_an_account_is_mailed_to_whose_it_is(root, designer):
    Person.objects.filter(pk=designer.pk).update(email="old@studio.example")
    api = api_for(None)
    api.expect(200, "POST", "/session", {"username": "designer", "password": "a-long-password"})
    api.expect(204, "POST", "/own/password", {"current": "a-long-password", "new": PASSWORD})
    api_for(root).expect(204, "PATCH", "/team/designer", {"email": "new@studio.example"})
    run_worker()
    told = {(one.to[0], one.body.split("\n")[0]) for one in mail.outbox}
    assert told == {
        ("old@studio.example", "Your password was changed."),
        ("old@studio.example", "The mail address of your account was changed."),
    }
    assert all("at once" in one.body for one in mail.outbox)


def test_a_password_is_changed_by_who_knows_it_and_ends_every_other_session(designer):
    here, there = api_for(None), api_for(None)
    for api in (here, there):
        api.expect(200, "POST", "/session", {"username": "designer", "password": "a-long-password"})
    assert (
        here.expect(422, "POST", "/own/password", {"current": "wrong", "new": PASSWORD})["detail"]
        == "The password of now is wrong."
    )
    here.expect(422, "POST", "/own/password", {"current": "a-long-password", "new": "password123"})
    here.expect(204, "POST", "/own/password", {"current": "a-long-password", "new": PASSWORD})
    assert [one["is_this"] for one in here.get("/own/sessions")] == [True]
    there.expect(401, "GET", "/own")
    there.expect(422, "POST", "/session", {"username": "designer", "password": "a-long-password"})


def test_what_a_leaver_owns_is_handed_over_whole_what_lies_in_the_bin_too(root, designer, picture):
    curator = person("curator", "marek")
    made = [look_of(designer, name) for name in ("Salt", "Tide")]
    boards.keep(designer, "Evenings", made, [picture.pk])
    api_for(designer).expect(204, "DELETE", f"/catalogue/look/{made[1]}")
    api = api_for(root)
    assert member(api, "designer")["owns"] == {"look": 1, "picture": 1, "board": 1}
    api.expect(422, "POST", "/team/designer/hand-over", {"to": "designer"})
    person("viewer", "nadia")
    api.expect(422, "POST", "/team/designer/hand-over", {"to": "nadia"})
    assert api.expect(200, "POST", "/team/designer/hand-over", {"to": "marek"}) == {"count": 4}
    assert member(api, "designer")["owns"] == {}
    assert set(Entry.objects.values_list("owner", flat=True)) == {curator.pk}
    line = Activity.objects.get(action="hand over")
    assert (line.person, line.about, line.data["to"]) == (root, "designer", "marek")


def test_the_list_costs_as_much_for_forty_as_for_four(root, django_assert_max_num_queries):
    api = api_for(root)
    for number in range(40):
        look_of(person("designer", f"one{number}"), f"Look {number}")
    api.get("/session")  # a first call notes that one is there
    with django_assert_max_num_queries(20):
        assert len(api.get("/team")["members"]) == 41


def test_what_is_done_is_told_with_who_when_and_from_where(root, designer):
    api = Api(Client(enforce_csrf_checks=True, REMOTE_ADDR="192.0.2.9"))
    api.expect(200, "POST", "/session", {"username": "root", "password": "a-long-password"})
    api.expect(204, "PATCH", "/team/designer", {"role": "curator"})
    tries.note_failed("=HYPERLINK(1)", "192.0.2.66")
    page = api.get("/activity?action=give role")
    assert [(one["who"], one["about"], one["address"], one["data"]) for one in page["lines"]] == [
        ("Root", "designer", "192.0.2.9", {"role": "curator", "before": "designer"})
    ]
    assert {"give role", "sign in", "fail to sign in"} <= set(page["actions"])
    assert [one["action"] for one in api.get("/activity?words=192.0.2.9 give")["lines"]] == ["give role"]
    assert api.get("/activity?until=2001-01-01")["lines"] == []
    table = b"".join(api.call("GET", "/activity.csv").streaming_content).decode("utf-8-sig")
    rows = [row.split(",") for row in table.splitlines()]
    assert rows[0][:3] == ["when", "who", "did"]
    assert [row[4] for row in rows if row[2] == "fail to sign in"] == ["'=HYPERLINK(1)"], "no spreadsheet reckons it"
    assert {row[5] for row in rows if row[2] == "give role"} == {"192.0.2.9"}
    api_for(Person.objects.create_user("nadia", role="viewer")).expect(403, "GET", "/activity")


def test_the_activity_is_turned_page_by_page(root):
    Activity.objects.bulk_create([Activity(action="test", about=str(number)) for number in range(250)])
    api, seen, before = api_for(root), [], ""
    while True:
        page = api.get(f"/activity?action=test{before}")
        seen += [one["about"] for one in page["lines"]]
        if not page["has_more"]:
            break
        before = f"&before={page['lines'][-1]['id']}"
    assert seen == [str(number) for number in reversed(range(250))]


def test_a_service_has_no_password_and_is_no_admin(root):
    api = api_for(root)
    api.expect(204, "POST", "/team/services", {"name": "farm", "full_name": "Render farm", "role": "designer"})
    assert member(api, "farm")["is_service"]
    api.expect(422, "POST", "/team/services", {"name": "other", "role": "admin"})
    api.expect(422, "PATCH", "/team/farm", {"role": "admin"})
    api.expect(422, "POST", "/team/farm/link")
    with pytest.raises(NotPossible):
        accounts.give_password("farm", PASSWORD)
    assert [one["username"] for one in api.get("/people")] == ["root"], "nobody makes it a member of a project"


def test_who_comes_for_the_first_time_is_new_until_they_have_been_shown_around():
    ilse = accounts.add("ilse", Role.DESIGNER, "a-long-password")
    farm = accounts.add_service(person("admin", "chief"), "farm", Role.DESIGNER)
    assert (ilse.is_new, farm.is_new) == (True, False)
    api = api_for(ilse)
    assert api.get("/session")["is_new"]
    api.expect(422, "PATCH", "/own", {"is_new": True})
    api.expect(200, "PATCH", "/own", {"full_name": "Ilse Harrow"})
    assert api.get("/session")["is_new"], "nothing else ends it"
    api.expect(200, "PATCH", "/own", {"is_new": False})
    assert not api.get("/session")["is_new"]
