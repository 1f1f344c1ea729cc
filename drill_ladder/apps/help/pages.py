"""What each page is for, what to do next, its words and its keys, by the name of its address."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Help:
    """what: one or two sentences; next: what to do from here; words: of the glossary, by name;
    keys: (key, what it does).
    """

    title: str
    what: str
    next: tuple[str, ...] = ()
    words: tuple[str, ...] = ()
    keys: tuple[tuple[str, str], ...] = ()


EVERYWHERE = (("/", "search everything"), ("?", "this help"))
DECIDES = (
    ("C", "confirm what the rule proposes"),
    ("H", "hold: stay here for now"),
    ("O", "decide otherwise, with your reason"),
    ("L", "later: the next one first"),
    ("U", "take the last decision back"),
)
RUNGS = ("rung", "dose", "target", "rule", "lane")

PAGES = {
    "progress:desk": Help(
        "Overview",
        "What waits for you today: decisions, reports of hurt, who is behind, who needs a ladder.",
        (
            "Open the first line that waits, and decide it.",
            "Today’s plan opens the hall with those who come.",
        ),
        ("climb", "hold", "stop"),
    ),
    "review:queue": Help(
        "Review",
        "One proposal of the rule at a time, with its reason and the days behind it. You decide; "
        "the player is moved only by you.",
        (
            "Read the reason, look at the last days, then confirm, hold or decide otherwise.",
            "“Why?” shows every step of the rule with this player’s own numbers.",
            "“Your last ten decisions” takes any of them back.",
        ),
        ("climb", "hold", "ease", "step down", "stalled", "recheck", "check"),
        DECIDES,
    ),
    "review:after": Help(
        "After the hour",
        "Everybody’s result of today, and what can be decided now.",
        ("Confirm what the rule proposes, or leave it for Review.",),
        ("verdict", "climb"),
    ),
    "progress:players": Help(
        "Players",
        "Everybody you may see, with their ladders and when you saw them last.",
        ("Open a player, or add one.", "Import a list of players from a table."),
        ("ladder", "rung"),
    ),
    "progress:player": Help(
        "A player",
        "Where they stand on each ladder, the last days, what they told, what is planned.",
        (
            "Prescribe a ladder, or change how often and where.",
            "“Progress” answers with pictures and numbers; “Sessions” puts right what was logged.",
            "“Family” has the card at home; its QR code opens it on a phone.",
        ),
        ("ladder", "rung", "verdict", "stop"),
    ),
    "progress:family": Help(
        "Family",
        "What belongs to home: the card and its secret link, the days, the place, the guardians.",
        (
            "Copy the link of the card, mail it, or show its QR code to a phone.",
            "Make a new link when the old one is in wrong hands.",
        ),
        ("stop", "home version"),
    ),
    "progress:decisions": Help(
        "Decisions",
        "What was confirmed, held, changed or overruled for this player, and why.",
        ("Open “Who changed what” for every change, with both values.",),
        ("verdict", "rule"),
    ),
    "progress:look-back": Help(
        "Is it working?",
        "Questions about one player’s work, each with an answer, a picture and its numbers. Nobody "
        "is compared with anybody else.",
        (
            "Choose another ladder or stretch of time at the top.",
            "Open “The numbers” to take them.",
        ),
        ("verdict", "day spread", "retention"),
    ),
    "progress:squad": Help(
        "A squad",
        "Everybody on each of their ladders, who needs you first; what many share could be one "
        "group block.",
        ("Open who is stuck or behind.", "Begin a group block from what many share."),
        ("stalled", "lane", "fault"),
    ),
    "progress:term": Help(
        "Season forecast",
        "The squad simulated from the club’s own record, with what another rule, one more session "
        "or a half-step would change. Never a promise.",
        ("Look at “Would it have been right?” before you trust it.",),
        ("rule", "day spread", "rung"),
    ),
    "progress:insights": Help(
        "Insights",
        "Looking back and ahead over all: squads, season forecasts, ladders, your own decisions.",
        ("Open the question you have.",),
        ("rule", "climb"),
    ),
    "progress:own-decisions": Help(
        "Your decisions",
        "Your own calls and what came of them, and whether forecasts were right.",
        ("Ask another rule of the club’s record, under a ladder’s Analysis.",),
        ("climb", "hold", "rule"),
    ),
    "progress:health": Help(
        "Analysis",
        "What the record says about a ladder: its steps, what a session brings, its rule.",
        ("Put a half-step where there is a cliff.", "Compare rules where enough stays are over."),
        ("rung", "rule", "day spread"),
    ),
    "progress:report": Help(
        "A report",
        "What a family reads. You write it, look at it as they will, and publish exactly that.",
        ("Read it as they will, then publish.",),
        ("rung", "target"),
    ),
    "library:ladders": Help(
        "Ladders",
        "The club’s ladders: rows of rungs from easy to hard, each with its rule.",
        ("Take one from the starter shelf, or build one.",),
        ("ladder", "rung", "rule"),
    ),
    "library:ladder": Help(
        "A ladder",
        "Its rungs with dose and target, its rule, who is on it.",
        ("Prescribe it to a player.", "Edit a rung; whoever stands there keeps their terms."),
        RUNGS,
    ),
    "library:ladder-edit": Help(
        "Building a ladder",
        "Rungs from easy to hard. Each says what is done, how much, and what is to be reached.",
        (
            "Begin with the easiest rung that is still worth doing.",
            "The margin shows what the rule will do to somebody ready and not ready.",
        ),
        (*RUNGS, "ease", "floor"),
    ),
    "library:odds": Help(
        "Rule forecast",
        "What a rule really does: how often it moves somebody up too soon, or keeps them back.",
        (
            "Move the two marks to your own.",
            "Take a rule from the list.",
        ),
        ("rule", "day spread", "target"),
    ),
    "library:drills": Help(
        "Drills",
        "What can be done, with its drawing, faults and cautions.",
        ("Make one, or look for one by its skill.",),
        ("drill", "fault", "cue", "home version"),
    ),
    "library:drill": Help(
        "A drill",
        "How it is done, its drawing, its faults and what treats them, and how it is done at home.",
        ("Count it here to try it.", "Use it on a rung of a ladder."),
        ("fault", "cue", "home version", "bad feed"),
    ),
    "library:drill-edit": Help(
        "Making a drill",
        "One screen: what, how, where it is drawn, what goes wrong, what it needs.",
        (
            "Draw the floor plan last; it is made from what you have said.",
            "Windows, runs and “until n”: tick whether a phone can count each hit by ear.",
        ),
        ("lane", "fault", "caller", "by ear"),
    ),
    "library:routines": Help(
        "Routines",
        "Parts that belong together and are done in one go, each counted on its own ladder.",
        ("Make one of ladders of one rung.",),
        ("routine",),
    ),
    "library:shelf": Help(
        "Starter ladders",
        "Ready ladders, taken one by one and worded for your sport. Yours once taken.",
        ("Take one, then change whatever you like.",),
        ("ladder", "rung"),
    ),
    "library:limits": Help(
        "Limits",
        "The club’s own limits for what strains a body, and for the size of tools. A week’s plan "
        "keeps to the first, card and hall say the second.",
        ("Follow your federation’s rules for children; these are only sums.",),
        ("dose",),
    ),
    "prescriptions:start": Help(
        "Prescribing",
        "Who does which ladder, from which rung, how often and where.",
        ("Place the player by a few tries, or say the rung yourself.",),
        ("placement", "dose", "home version"),
    ),
    "prescriptions:change": Help(
        "Changing what is prescribed",
        "How often, where, and what is different here. What was done stays as it was judged.",
        ("Look at the minutes a week, and what one more day would bring.",),
        ("dose", "rule"),
    ),
    "prescriptions:place": Help(
        "Placement",
        "A few tries on rungs, chosen so that each one tells most.",
        ("Try what is asked, type the good ones, and stop when it says so.",),
        ("placement", "rung"),
    ),
    "weeks:weeks": Help(
        "Weeks",
        "Everybody’s week: what is planned, told and done.",
        ("Plan those that have none.", "Publish, so that cards and families know."),
        ("dose", "routine"),
    ),
    "weeks:week": Help(
        "A week",
        "One player’s days with their blocks. What found no place is said with the reason.",
        ("Move a block by dragging or by its menu.", "Publish when it is right."),
        ("dose",),
    ),
    "practice:log": Help(
        "Log a session",
        "Count with the pads, or type what was counted. What nobody counted stays unknown.",
        (
            "Count each lane by itself.",
            "A bad feed counts for nothing.",
        ),
        ("lane", "bad feed", "fault", "verdict"),
        (("G", "good"), ("M", "missed"), ("B", "bad feed"), ("Z", "take back")),
    ),
    "practice:sessions": Help(
        "Sessions",
        "All that was told and logged, newest first, with what was put right.",
        ("Open one to put it right; both values stay in the trail.",),
        ("verdict",),
    ),
    "floor:hall": Help(
        "Hall",
        "Everybody who is here, on one screen. One touch counts one; it works without a network.",
        (
            "Tick who is here in the drawer.",
            "Touch a tile for the whole of their work.",
            "Hurt is one touch, for each.",
            "A drill that can be heard is counted by ear: lay the tablet close by.",
            "Under Turns: a goal for all together, or for two teams with and without bibs.",
        ),
        ("lane", "turn", "station", "stop", "by ear"),
    ),
    "floor:stations": Help(
        "Stations",
        "A group on stations: who works, who feeds, who is next.",
        (
            "Make a plan, then begin it; it runs in the hall.",
            "All change by the clock, or once each has done so many.",
        ),
        ("station", "turn"),
    ),
    "floor:tests": Help(
        "Tests and test days",
        "The same measured the same way, so that a change can be told from chance.",
        ("Begin a test day, or make a test of a drill or a whole routine.",),
        ("real change",),
    ),
    "floor:battery": Help(
        "A test day",
        "Each player’s trials by the protocol; what counts is said at each tile.",
        ("Call up who is next.", "Finish it when all are done: then it is closed."),
        ("real change", "stop"),
    ),
    "people:club": Help(
        "Club",
        "Name, time zone, units, squads.",
        ("Add squads, then players to them.",),
    ),
    "people:team": Help(
        "People and invitations",
        "Who works here and what they may see. An assistant sees their squads alone.",
        ("Invite by a link that holds seven days.",),
    ),
    "people:player-edit": Help(
        "A player’s profile",
        "What helps to plan: days, space and tools at home, stronger hand, guardians.",
        ("Note the days first; a week is planned from them.",),
        ("home version",),
    ),
    "exchange:results-in": Help(
        "Import results",
        "A table of results, looked at before anything is stored.",
        ("Take the example table, fill it, and look at the preview.",),
        ("lane", "rung"),
    ),
    "exchange:roster-in": Help(
        "Import players",
        "A table of players, looked at before anything is stored.",
        ("One row a player; columns may be in any order.",),
    ),
    "records:records": Help(
        "Archive and retention",
        "All of the club as one file, and how long things are kept.",
        ("Take an archive before you erase anybody.",),
    ),
    "records:history": Help(
        "History",
        "Who changed what and when; nothing in it is ever changed.",
        ("Search by name or day.",),
    ),
    "outbox:outbox": Help(
        "Outbox",
        "Letters to families: held, sent, what became of each.",
        ("Look at what is held, then let it go.",),
    ),
}
OTHER = Help(
    "This page",
    "Part of Drill Ladder: choose, shape, place, plan, do, judge, look back.",
    ("Search with “/” for where you want to go.",),
    ("ladder", "rung", "rule"),
)
# pages that are a step of another one
LIKE = {
    "review:lately": "review:queue",
    "progress:replay": "progress:health",
    "progress:coverage": "progress:squad",
    "progress:reports": "progress:report",
    "library:ladder-new": "library:ladder-edit",
    "library:ladder-draft": "library:ladder-edit",
    "library:drill-new": "library:drill-edit",
    "library:drill-run": "library:drill",
    "library:plan-edit": "library:drill-edit",
    "library:rung-plan": "library:ladder-edit",
    "library:routine-new": "library:routines",
    "library:routine-edit": "library:routines",
    "library:import": "library:shelf",
    "prescriptions:choose": "prescriptions:start",
    "prescriptions:routine": "library:routines",
    "prescriptions:routine-give": "library:routines",
    "prescriptions:standing": "library:ladder",
    "prescriptions:squad-start": "prescriptions:start",
    "practice:routine-log": "practice:log",
    "practice:session": "practice:sessions",
    "floor:station": "floor:stations",
    "floor:station-change": "floor:stations",
    "floor:turns": "floor:hall",
    "floor:test-new": "floor:tests",
    "floor:test-edit": "floor:tests",
    "floor:battery-new": "floor:battery",
    "floor:challenge": "floor:hall",
    "people:member-edit": "people:team",
    "people:player-new": "people:player-edit",
    "records:player": "records:records",
    "outbox:message": "outbox:outbox",
    "help:why": "review:queue",
}


def help_of(name: str) -> Help:
    """The help of a page by the name of its address; of any page something."""
    return PAGES.get(LIKE.get(name, name), OTHER)
