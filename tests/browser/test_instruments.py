"""Every measure has an instrument on the card: tapped or timed, it is the form's own number."""

from dataclasses import replace

import pytest
from selenium.webdriver.common.by import By

from drill_ladder.apps.practice.models import Session, SetRow
from tests.browser.driver import wait_until
from tests.browser.hands import choose, click, expect, kept, phone, problems, ready, sideways
from tests.make import current, drill, ladder, put_on


@pytest.fixture
def block(club, browser, live_server):
    """Opens a block of one measure on a phone."""

    def opened(measure, target, dose=None, **more):
        of = drill(club.club, f"A drill of {measure['kind']}", measure=measure, lanes=[], **more)
        steps = ladder(
            club.club,
            of,
            f"Ladder of {measure['kind']}",
            rungs=1,
            target=target,
            dose=dose or {"sets": 2},
            floor=None,
        )
        p = put_on(club, ladder=steps, place="home")
        phone(browser)
        browser.get(f"{live_server.url}/card/{club.token}/{current(p).pk}/")
        ready(browser)
        assert sideways(browser) <= 0
        assert problems(browser) == []
        return p

    return opened


def press(browser, css, times=1):
    for _ in range(times):
        button = next(b for b in browser.find_elements(By.CSS_SELECTOR, css) if b.is_displayed())
        browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
        button.click()


def send(browser):
    choose(browser, "hurts", "no")
    click(browser, "Send to my coach")
    wait_until(browser, "location.pathname.includes('/done/')")
    return list(SetRow.objects.filter(session=Session.objects.latest("recorded_at")))


def test_a_run_ends_with_a_miss(block, browser):
    block({"kind": "streak"}, {"value": 3}, {"sets": 2, "rest_s": 20})
    press(browser, ".pad-good", 3)
    expect(browser, "3 in a row")
    press(browser, ".pad-miss")
    expect(browser, "Rest")
    click(browser, "Go on")
    press(browser, ".pad-good")
    press(browser, ".pad-miss")
    assert [row.best_run for row in send(browser)] == [3, 1]


def test_until_so_many_are_good(block, browser):
    block({"kind": "to_n", "n": 2}, {"value": 4}, {"sets": 1})
    press(browser, ".pad-miss")
    press(browser, ".pad-good", 2)
    assert browser.find_element(By.CSS_SELECTOR, ".pad-good").get_attribute("disabled")
    assert [row.attempts for row in send(browser)] == [3]


def test_points_are_keys(block, browser):
    block({"kind": "points", "max": 3}, {"value": 2}, {"sets": 1, "reps": 3})
    for key in (3, 0, 2):
        press(browser, f".pad-key:nth-child({key + 1})")
    expect(browser, "5 points in 3")
    assert [(row.points, row.attempts) for row in send(browser)] == [(5, 3)]


def test_checkpoints_are_ticked_by_their_words(block, browser):
    block({"kind": "checklist", "items": ["Low", "Still", "Soft"]}, {"value": 0.5}, {"sets": 1})
    click(browser, "Low")
    click(browser, "Soft")
    click(browser, "Low")
    expect(browser, "1 of 3 seen")
    assert [row.ticks for row in send(browser)] == [1]


def test_work_done_is_answered(block, browser):
    block({"kind": "done"}, {"value": 0.5})
    click(browser, "Done")
    click(browser, "Half of it")
    assert [row.share for row in send(browser)] == [1, 0.5]


def test_a_window_ends_itself(block, browser):
    """Six seconds (four taps fit on a busy machine too) after three of getting ready."""
    block({"kind": "count", "window_s": 6}, {"value": 4}, {"sets": 1})
    press(browser, ".pad-good")
    expect(browser, "Get ready")
    wait_until(
        browser, "[...document.querySelectorAll('.pad-good.tall')].some(e => e.offsetParent)"
    )
    press(browser, ".pad-good.tall", 4)
    wait_until(browser, "document.querySelector('[name=e0-count]').value === '4'")
    wait_until(
        browser,
        "[...document.querySelectorAll('.pad-good')].some("
        "e => e.offsetParent && e.innerText.includes('Start'))",
    )
    assert [row.count for row in send(browser)] == [4]


def test_a_time_by_tap_and_a_stop_before_the_call(block, browser):
    block({"kind": "time"}, {"value": 9}, {"sets": 1})
    click(browser, "By a call")
    expect(browser, "Ready")
    click(browser, "Stop")
    assert browser.execute_script("return document.querySelector('[name=e0-seconds]').value") == ""
    click(browser, "Start")
    wait_until(browser, "parseFloat(document.querySelector('.pad-count .number').innerText) > 0.4")
    click(browser, "Stop")
    (row,) = send(browser)
    assert 0.3 < row.seconds < 5


def test_what_was_tapped_is_there_after_a_reload_and_typing_replaces_it(block, browser):
    block({"kind": "streak"}, {"value": 3}, {"sets": 1})
    press(browser, ".pad-good", 2)
    kept(browser, "gg")
    browser.refresh()
    ready(browser)
    expect(browser, "2 in a row")
    click(browser, "Type it")
    field = browser.find_element(By.NAME, "e0-best_run")
    assert field.get_attribute("value") == "2"
    field.clear()
    field.send_keys("7")
    (row,) = send(browser)
    assert (row.best_run, row.strokes) == (7, "")


def test_the_adult_stands_before_the_drill_and_is_sent(club, browser, live_server, block):
    """Without the tick the page says why, and keeps what was answered; with it all is stored."""
    club.player.home_adult = True
    club.player.save()
    block({"kind": "done"}, {"value": 0.5}, {"sets": 1}, caution="home_with_adult")
    click(browser, "Done")
    choose(browser, "hurts", "no")
    click(browser, "Send to my coach")
    expect(browser, "An adult has to be there")
    assert browser.find_element(By.NAME, "e0-share").get_attribute("value") == "100"
    browser.execute_script("document.querySelector('[name=adult]').click()")
    (row,) = send(browser)
    assert row.share == 1


CALLER = {"cues": [{"name": "left"}, {"name": "right"}], "every_s": 0.5, "spread": 0, "way": "word"}


def test_calls_are_answered_and_a_set_is_made_easier_on_the_way(block, browser):
    more = {"people": "feeder"}
    p = block({"kind": "makes"}, {"makes": 3, "of": 4}, {"sets": 1, "reps": 4}, **more)
    rung = current(p).rung
    rung.caller = CALLER | {"leave": 0.5}
    rung.save()
    move_by_hand_back(p)
    browser.refresh()
    ready(browser)
    click(browser, "Start the calls, answer each")
    for _ in range(8):
        wait_until(browser, "document.querySelector('.call.called, .call.leave')")
        leave = "Leave" in browser.find_element(By.CSS_SELECTOR, ".call").text
        click(browser, "Left it" if leave else "Got it")
        wait_until(browser, "!document.querySelector('.call.called, .call.leave')")
        if not browser.find_element(By.CSS_SELECTOR, ".caller .call").is_displayed():
            break
    (one,) = send(browser)
    assert (one.makes, one.attempts, one.reads.hits) == (4, 4, 4)
    assert one.reads.false_alarms == 0
    expect(browser, "4 good ones today")
    expect(browser, "You went for 4 of 4 calls")


def test_calls_go_on_by_themselves_and_are_answered_in_sums(block, browser):
    """Nobody touches the phone between the first call and the last; then two sums."""
    p = block({"kind": "makes"}, {"makes": 3, "of": 4}, {"sets": 1, "reps": 4}, people="feeder")
    rung = current(p).rung
    rung.caller = CALLER | {"leave": 0.5, "every_s": 0.5}
    rung.save()
    move_by_hand_back(p)
    browser.refresh()
    ready(browser)
    click(browser, "Calls by themselves")
    wait_until(browser, "document.querySelector('.calls-alone .call.called')")
    whole = "document.querySelector('.calls-alone').getBoundingClientRect()"
    # all but the head of the page, where hurt is told
    assert browser.execute_script(f"return {whole}.width >= innerWidth && {whole}.top <= 64")
    assert not browser.find_elements(By.CSS_SELECTOR, ".calls-alone .pad-buttons .pad-miss")
    expect(browser, "How did they go?")
    expect(browser, "Got: 4 of 4")
    press(browser, "[aria-label='One fewer: Got']")
    expect(browser, "Got: 3 of 4")
    click(browser, "That is right")
    (one,) = send(browser)
    assert (one.makes, one.attempts, one.reads.hits, one.reads.misses) == (3, 4, 3, 1)
    assert one.strokes == "gggm"


def move_by_hand_back(p):
    """The stay takes the rung's terms anew, as for somebody who arrives now."""
    stay = current(p)
    stay.terms = replace(stay.terms, rung=replace(stay.rung.core, rule=None))
    stay.save()


def test_good_ones_with_a_fault_bad_feeds_and_an_easier_half(block, browser):
    block({"kind": "makes"}, {"makes": 3, "of": 4}, {"sets": 1, "reps": 4}, people="feeder")
    press(browser, ".pad-good")
    click(browser, "Good, but")
    click(browser, "wide")
    click(browser, "Bad feed")
    click(browser, "Easier from now on")
    press(browser, ".pad-miss")
    press(browser, ".pad-good")
    full, easier = send(browser)
    assert (full.attempts, full.makes, full.faults, full.voids) == (2, 2, {"wide": 1}, 1)
    assert (easier.attempts, easier.makes, easier.eased) == (2, 1, True)


def test_a_trial_has_laps_and_faults_and_a_pause_holds_the_clock(block, browser):
    block(
        {"kind": "time", "fault_penalty_s": 1, "score_by": "best"},
        {"value": 9},
        {"sets": 2, "rest_s": 20},
    )
    click(browser, "Start")
    click(browser, "Lap")
    expect(browser, "1: ")
    click(browser, "Stop")
    click(browser, "late")
    expect(browser, "late 1")
    click(browser, "Pause")
    held = browser.find_element(By.CSS_SELECTOR, ".rest-clock .number").text
    wait_until(browser, "performance.now() > 0")
    assert browser.find_element(By.CSS_SELECTOR, ".rest-clock .number").text == held
    click(browser, "Go on")
    (one,) = send(browser)
    assert (one.faults, one.seconds is not None) == ({"late": 1}, True)
