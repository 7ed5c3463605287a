"""What takes its time: one thing at a time for each person, stopped when asked, and nobody held up by somebody else's."""

import threading
import time
from datetime import timedelta

import pytest
from django.core.management import call_command
from django.db import connections
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from server.errors import ApiError
from server.jobs import handlers, services, wake_ups
from server.jobs.handlers import Made
from server.jobs.models import Job
from server.jobs.tasks import work_through
from server.operation.management.commands import worker
from server.throttles.concurrency import Turns
from tests.server.conftest import Workshop


@pytest.fixture
def makes(monkeypatch):
    """Lets a test say how jobs of a kind are made."""

    def said(**kinds):
        for kind, make in kinds.items():
            monkeypatch.setitem(handlers.JOB_HANDLERS, kind, make)

    said(paper=lambda request: Made(str(request.payload).encode(), "text/plain", "paper.txt"))
    return said


def test_what_was_asked_for_is_made_and_fetched_under_its_name(workshop, makes):
    job = services.ask(workshop.user, "paper", {"of": "a board"})
    said = workshop.send("GET", f"/jobs/{job.pk}").json()
    assert (said["state"], said.get("file")) == ("waiting", None)
    assert workshop.send("GET", f"/jobs/{job.pk}/result").status_code == 404
    work_through.call()
    assert workshop.send("GET", f"/jobs/{job.pk}").json()["file"] == "paper.txt"
    made = workshop.send("GET", f"/jobs/{job.pk}/result")
    assert (made.content, made["Content-Type"]) == (b"{'of': 'a board'}", "text/plain")
    assert 'filename="paper.txt"' in made["Content-Disposition"]


def test_jobs_are_their_owners(workshop, other_workshop, makes):
    job = services.ask(workshop.user, "paper", {})
    work_through.call()
    for method, path in (("GET", ""), ("POST", "/stop"), ("GET", "/result")):
        assert other_workshop.send(method, f"/jobs/{job.pk}{path}").status_code == 404
    assert other_workshop.send("GET", "/jobs").json() == []
    assert [j["id"] for j in workshop.send("GET", "/jobs").json()] == [str(job.pk)]


def test_who_asks_for_much_comes_after_who_asks_for_little(workshop, other_workshop, makes):
    """Six of one person's before one of another's, and two workers: the second worker does not touch the first person's."""
    begun = []

    def make(request):
        begun.append(request.owner.username)
        if len(begun) == 1:
            services.work_all()  # the other worker, while the first is at it
        return Made(b"", "text/plain")

    makes(paper=make)
    for _ in range(4):
        services.ask(workshop.user, "paper", {})
    services.ask(other_workshop.user, "paper", {})
    work_through.call()
    assert begun == ["plover", "sanderling", "plover", "plover", "plover"]


def test_one_person_has_so_many_and_the_door_has_its_fill(workshop, other_workshop, makes, monkeypatch):
    for _ in range(services.MOST_OF_A_PERSON):
        services.ask(workshop.user, "paper", {})
    answer = workshop.send("POST", "/builds/" + workshop.new()["id"] + "/dossier")
    assert (answer.status_code, answer["Retry-After"]) == (429, "5")
    assert "Wait for one, or stop one" in answer.json()["message"]
    monkeypatch.setattr(services, "MOST_OF_ALL", services.MOST_OF_A_PERSON)
    answer = other_workshop.send("POST", "/builds/" + other_workshop.new()["id"] + "/dossier")
    assert (answer.status_code, answer["Retry-After"]) == (503, "15")
    work_through.call()
    assert other_workshop.send("POST", "/builds/" + other_workshop.new()["id"] + "/dossier").status_code == 202


def test_one_that_waits_is_stopped_at_once_and_one_under_way_when_it_next_says_how_far_it_is(
    workshop, makes, monkeypatch
):
    waits = services.ask(workshop.user, "paper", {})
    assert workshop.send("POST", f"/jobs/{waits.pk}/stop").json()["state"] == "stopped"
    said = []

    def make(request):
        request.report_progress(0.25)
        said.append(workshop.send("GET", f"/jobs/{job.pk}").json())
        workshop.send("POST", f"/jobs/{job.pk}/stop")
        request.report_progress(0.5)
        raise AssertionError("it went on")

    monkeypatch.setattr(services, "BEAT_S", 0.0)
    makes(paper=make)
    job = services.ask(workshop.user, "paper", {})
    work_through.call()
    assert [(s["state"], s["progress"]) for s in said] == [("running", 0.25)]
    assert workshop.send("GET", f"/jobs/{job.pk}").json()["state"] == "stopped"


def test_what_cannot_be_made_says_why_by_field_and_the_next_is_made(workshop, makes):
    def refuse(order):
        raise ApiError("That cannot be made.", deck="something longer")

    def fall(order):
        raise ZeroDivisionError("a secret of the server's")

    makes(refused=refuse, falls=fall)
    jobs = [services.ask(workshop.user, kind, {}) for kind in ("refused", "falls", "paper")]
    work_through.call()
    refused, fallen, made = (workshop.send("GET", f"/jobs/{job.pk}").json() for job in jobs)
    assert (refused["state"], refused["message"]) == ("failed", "That cannot be made.")
    assert refused["faults"] == [{"field": "deck", "reason": "something longer"}]
    assert fallen["state"] == "failed"
    assert "secret" not in fallen["message"]
    assert made["state"] == "done"


def test_what_takes_too_long_is_given_up(workshop, makes, monkeypatch):
    monkeypatch.setattr(services, "LONGEST_S", 0.2)

    def forever(order):
        while True:
            pass

    makes(forever=forever)
    job = services.ask(workshop.user, "forever", {})
    work_through.call()
    assert "longer than" in workshop.send("GET", f"/jobs/{job.pk}").json()["message"]


@pytest.mark.parametrize("minutes", [-10, 10], ids=["silent", "a clock that was ahead was set back"])
def test_a_job_whose_worker_died_is_said_and_holds_nothing_up(workshop, makes, minutes):
    dead, next_one = (services.ask(workshop.user, "paper", {}) for _ in range(2))
    Job.objects.filter(pk=dead.pk).update(state="running", beat_at=timezone.now() + timedelta(minutes=minutes))
    work_through.call()
    assert "worker was lost" in workshop.send("GET", f"/jobs/{dead.pk}").json()["message"]
    assert workshop.send("GET", f"/jobs/{next_one.pk}").json()["state"] == "done"


@pytest.mark.parametrize("minutes", [-1, 1], ids=["silent", "a clock that was ahead was set back"])
def test_a_call_that_was_lost_with_its_worker_is_made_again_by_who_waits(workshop, makes, minutes):
    job = services.ask(workshop.user, "paper", {})
    DBTaskResult.objects.all().delete()
    workshop.send("GET", f"/jobs/{job.pk}")
    assert DBTaskResult.objects.count() == 0, "it has not waited long"
    Job.objects.update(beat_at=timezone.now() + timedelta(minutes=minutes))
    for _ in range(3):
        workshop.send("GET", f"/jobs/{job.pk}")
    assert DBTaskResult.objects.count() == 1


def test_what_was_made_is_not_kept_for_ever(workshop, makes):
    job = services.ask(workshop.user, "paper", {})
    work_through.call()
    call_command("sweep")
    assert Job.objects.count() == 1
    Job.objects.update(ended_at=timezone.now() - timedelta(hours=3))
    call_command("sweep")
    assert not Job.objects.filter(pk=job.pk).exists()


def test_a_paper_carries_the_readers_day(workshop, makes):
    """Far in the east and far in the west it is never the same day."""
    makes(paper=lambda request: Made(str(timezone.localdate()).encode(), "text/plain"))
    days = set()
    for zone in ("Pacific/Kiritimati", "Etc/GMT+12"):
        with timezone.override(zone):
            job = services.ask(workshop.user, "paper", {})
        work_through.call()
        days.add(workshop.send("GET", f"/jobs/{job.pk}/result").content)
    assert len(days) == 2


@pytest.mark.django_db(transaction=True)
def test_a_worker_takes_what_waits_in_its_queue(makes):
    workshop = Workshop("plover")
    jobs = [services.ask(workshop.user, "paper", {}) for _ in range(3)]
    call_command("worker", "work", "--until-empty")
    assert {services.get(workshop.user, job.pk).state for job in jobs} == {"done"}
    assert not DBTaskResult.objects.ready().exists()


@pytest.mark.django_db(transaction=True)
def test_a_worker_that_waits_wakes_when_something_is_enqueued(makes, monkeypatch):
    monkeypatch.setattr(worker, "LOOK_S", 3600.0)
    looked, wait = threading.Event(), wake_ups.wait
    monkeypatch.setattr(wake_ups, "wait", lambda *given: (looked.set(), wait(*given))[1])
    workshop, steady = Workshop("plover"), worker.Steady("work", until_empty=False)

    def work() -> None:
        try:
            steady.run()
        finally:
            connections.close_all()

    thread = threading.Thread(target=work)
    thread.start()
    try:
        assert looked.wait(30)
        jobs = [services.ask(workshop.user, "paper", {}) for _ in range(2)]
        until = time.monotonic() + 30
        while Job.objects.under_way().exists() and time.monotonic() < until:
            time.sleep(0.01)
    finally:
        steady.running = False
        thread.join()
    assert {services.get(workshop.user, job.pk).state for job in jobs} == {"done"}


# --- turns at the engine ----------------------------------------------------------------------------------------------


def test_whoever_asks_for_much_gets_one_turn_a_round():
    turns, order, lock = Turns(most_each=8), [], threading.Lock()

    def ask(who):
        with turns.turn(who), lock:
            order.append(who)

    first = threading.Event()

    def hold():
        with turns.turn("first"):
            first.wait(5)

    threads = [threading.Thread(target=hold)]
    threads[0].start()
    for who in [*["much"] * 6, "a", "b"]:
        threads.append(threading.Thread(target=ask, args=(who,)))
        threads[-1].start()
        time.sleep(0.02)  # they line up in this order
    first.set()
    for thread in threads:
        thread.join(5)
    assert order[:3] == ["much", "a", "b"]
    assert order[3:] == ["much"] * 5


def test_one_too_many_of_one_person_is_sent_away_and_others_are_not():
    turns = Turns(most_each=1)
    with turns.turn("one"):
        with pytest.raises(ApiError) as refused, turns.turn("one"):
            pass
        assert (refused.value.status, refused.value.retry_after) == (429, 1)
    with turns.turn("one"):
        pass


def test_a_dragged_handle_is_let_through_and_a_loop_is_not(monkeypatch):
    now = [0.0]
    monkeypatch.setattr("server.throttles.concurrency.monotonic", lambda: now[0])
    turns, statuses = Turns(), []

    def ask():
        try:
            with turns.turn("loop"):
                return 200
        except ApiError as refused:
            return refused.status

    for _ in range(100):
        now[0] += 0.1
        statuses.append(ask())
    assert statuses.count(200) == pytest.approx(40 + 10 * 1, abs=1), "the burst, and then one a second"
    assert set(statuses[:40]) == {200}
    assert set(statuses) == {200, 429}
    with turns.turn("somebody else"):
        pass
    now[0] += 60
    for _ in range(40):
        with turns.turn("loop"):
            pass


def test_who_waits_too_long_is_told_and_the_line_goes_on(monkeypatch):
    monkeypatch.setattr("server.throttles.concurrency.LONGEST_S", 0.05)
    turns = Turns()
    with turns.turn("one"), pytest.raises(ApiError) as refused, turns.turn("another"):
        pass
    assert refused.value.status == 503
    with turns.turn("another"):
        pass


def test_a_turn_that_fails_is_over():
    turns = Turns()
    with pytest.raises(ZeroDivisionError), turns.turn("one"):
        raise ZeroDivisionError
    with turns.turn("another"):
        pass


def test_a_build_is_predicted_in_turn(workshop, monkeypatch):
    """Every route that takes the engine waits its turn: with the door held, nobody is let in."""
    from server.throttles import concurrency

    door = concurrency.ENGINE
    monkeypatch.setattr(concurrency, "LONGEST_S", 0.05)
    document = workshop.new()["document"]
    with door.turn("somebody else"):
        for path in ("predict", "candidates", "curves", "drawings", "enclosure", "controller-settings", "parts-list"):
            body = {"document": document, "kind": "deck"}
            assert workshop.send("POST", f"/{path}", body).status_code == 503, path
        assert workshop.send("GET", "/boards").status_code == 503
    assert workshop.send("POST", "/predict", {"document": document}).status_code == 200
