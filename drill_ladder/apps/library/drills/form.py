"""The form of a drill."""

from collections.abc import Sequence
from typing import Any

from django import forms

from drill_ladder.apps.library.models import HEARD, Caution, Drill, LanesAre, People
from drill_ladder.apps.people.models import Club
from drill_ladder.core.coaching import Axis
from drill_ladder.core.planning import KitWindow
from drill_ladder.core.statistics import Strain
from drill_ladder.core.work import HEARD_KINDS
from drill_ladder.formats.documents import MEASURE
from drill_ladder.formats.kit_words import BadSize, read_windows, windows_text
from drill_ladder.formats.measures import MEASURES, form_named, form_of
from drill_ladder.formats.reading import whole
from drill_ladder.ui.fields import FormValues, Line, Lines, Number, Prose, Whole, Words, listed

MOST_POINTS = 100  # of one landing
KINDS = [(one.kind.kind, one.label) for one in MEASURES]
SCORE_BY = [("best", "The best"), ("mean", "The mean"), ("median", "The median (seconds only)")]

FEEDS = [
    ("", "Counts for nothing with a feeder or a partner"),
    ("yes", "Counts for nothing, whoever feeds"),
    ("no", "Is an attempt like any other"),
]
FEEDS_AS = {"yes": True, "no": False}

PLAIN = (
    "title",
    "purpose",
    "how",
    "cues",
    "checkpoints",
    "caution",
    "caution_note",
    "only_fresh",
    "worn",
    "tools",
    "surfaces",
    "wall",
    "lanes_are",
    "axes",
    "strain",
    "sources",
)


class DrillForm(forms.Form):
    """Everything about a drill but its floor plan."""

    title = Line(label="Name", max_length=120)
    skill = Line(label="Skill", max_length=80, required=False, help_text="For example: Passing")
    purpose = Line(label="What it is for", max_length=300, required=False)
    how = Prose(label="How it is done", required=False, widget=forms.Textarea(attrs={"rows": 4}))
    cues = Lines(label="Cues", required=False, help_text="What is said, short, one a line")
    checkpoints = Lines(
        label="Technique to look for",
        required=False,
        help_text="What can be seen when it is right, one a line; ticked in a log it is the form",
    )
    kind = forms.ChoiceField(label="How it is scored", choices=KINDS)
    top = Number(label="Most points an attempt", min_value=0.1, required=False)
    landings = Lines(
        label="Where it may end, each with its points",
        required=False,
        help_text="A place, a number of steps, a share of the way, one a line: corner 3. Each has "
        "a key of its own and is counted by its name. Empty: keys for points alone",
    )
    window_s = Number(label="Window, s", min_value=1, required=False)
    score_by = forms.ChoiceField(label="What counts", choices=SCORE_BY, required=False)
    fault_penalty_s = Number(label="Seconds for each fault", min_value=0, required=False)
    cap = Whole(
        label="It ends after so many good ones",
        min_value=1,
        required=False,
        help_text="Empty: nothing but misses ends it",
    )
    n = Whole(label="Good ones to collect", min_value=1, required=False)
    lost = Whole(label="A set ends after so many lost", min_value=1, required=False)
    first = Whole(label="Attempts at first", min_value=1, max_value=1000, required=False)
    earn = Whole(
        label="So many good ones earn as many more",
        min_value=1,
        max_value=1000,
        required=False,
        help_text="Empty: two",
    )
    most = Whole(label="Attempts at most", min_value=1, max_value=1000, required=False)
    items = Lines(label="Checkpoints", required=False, help_text="One a line")
    lanes = Line(
        label="Lanes",
        max_length=200,
        required=False,
        help_text="With commas between, for example: left, right",
    )
    caution = forms.ChoiceField(label="Where it may go", choices=Caution.choices)
    caution_note = Line(label="Safety first", max_length=300, required=False)
    only_fresh = forms.BooleanField(
        label="Contact or all-out effort: only when fresh",
        required=False,
        help_text="Never done tired, and never after conditioning",
    )
    worn = Words(
        label="Worn each time",
        max_length=200,
        required=False,
        help_text="As your club’s code says, such as helmet, eye wear; each is ticked, each time",
    )
    people = forms.ChoiceField(label="Who it takes", choices=People.choices, required=False)
    group_of = Whole(label="Players in the group", min_value=2, max_value=60, required=False)
    feeds_judged = forms.TypedChoiceField(
        label="A bad feed",
        choices=FEEDS,
        coerce=FEEDS_AS.get,
        empty_value=None,
        required=False,
    )
    heard = forms.ChoiceField(
        label="A phone can count it by ear",
        choices=(("", "No"), *HEARD),
        required=False,
        help_text="Where each one is heard: a ball on a wall or a floor, a catch in the hands. The "
        "player looks it over",
    )
    tools = Words(
        label="Tools",
        max_length=300,
        required=False,
        help_text="For example: stick, three balls, cones",
    )
    surfaces = Words(label="Surfaces", max_length=200, required=False, help_text="Empty: any")
    wall = forms.BooleanField(label="Needs a wall", required=False)
    lanes_are = forms.ChoiceField(
        label="Left and right are",
        choices=LanesAre.choices,
        initial=LanesAre.SIDES,
        required=False,
    )
    fits = Number(
        label="Fits from, % of its size",
        min_value=1,
        max_value=100,
        required=False,
        help_text="Empty: 80 %, with times 100 %. Smaller homes are asked about first",
    )
    kit = Prose(
        label="Tools that go with the body's height",
        max_length=500,
        required=False,
        widget=forms.Textarea(attrs={"rows": 2}),
        help_text="One a line, in % of the height, and how it is found without one: "
        "tee 30 to 60 %, knee to navel",
    )
    axes = forms.MultipleChoiceField(
        label="Can get harder by",
        choices=[(axis.value, axis.value) for axis in Axis],
        required=False,
        widget=forms.CheckboxSelectMultiple,
    )
    strain = forms.MultipleChoiceField(
        label="Each repetition counts as one of the",
        choices=[(kind.value, kind.value) for kind in Strain],
        required=False,
        widget=forms.CheckboxSelectMultiple,
    )
    sources = Prose(
        label="Where it comes from",
        required=False,
        widget=forms.Textarea(attrs={"rows": 2}),
        help_text="In your words",
    )
    revision = Whole(widget=forms.HiddenInput, initial=0)

    def __init__(self, *args: Any, club: Club, drill: Drill | None = None, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.club, self.drill = club, drill

    def clean_title(self) -> str:
        """A name once a club."""
        title = str(self.cleaned_data["title"]).strip()
        same = Drill.objects.of_club(self.club).filter(title__iexact=title)
        if same.exclude(pk__in=[self.drill.pk] if self.drill else []).exists():
            raise forms.ValidationError("There is a drill of that name already.")
        return title

    def clean_lanes_are(self) -> str:
        """Sides of the body, unless said otherwise."""
        return self.cleaned_data["lanes_are"] or LanesAre.SIDES

    def clean_kit(self) -> tuple[KitWindow, ...]:
        """Windows as the core has them."""
        try:
            return read_windows(self.cleaned_data["kit"])
        except BadSize as error:
            raise forms.ValidationError(str(error)) from error

    def clean_landings(self) -> list[FormValues]:
        """Names with their points, as a document has them."""
        return read_landings(self.cleaned_data["landings"])

    def clean(self) -> FormValues:
        """A measure that the core can read, lanes once each."""
        data = super().clean() or self.cleaned_data
        faults = MEASURE.faults(self.measure_document()) if data.get("kind") else []
        for line in faults:
            self.add_error(_field_of(line, data["kind"]), f"This {line.partition(': ')[2]}.")
        if data.get("people") == People.GROUP and not data.get("group_of"):
            self.add_error("group_of", "How many players?")
        lanes = self.lane_names()
        if len(set(lanes)) < len(lanes):
            self.add_error("lanes", "A lane is named twice.")
        return data

    def measure_document(self) -> FormValues:
        """The measure as typed, which may be wrong, in the open format."""
        document: FormValues = {"kind": self.cleaned_data["kind"]}
        form = form_named(document["kind"])
        for number, name in form.typed_names.items() if form else ():
            value = self.cleaned_data.get(name)
            if value in (None, "") or (number == "landings" and not value):
                continue
            document[number] = value
        if "max" not in document and document.get("landings"):
            document["max"] = max(one["points"] for one in document["landings"]) or 1
        return document

    def lane_names(self) -> list[str]:
        """Lanes as a list."""
        return listed(self.cleaned_data.get("lanes"))

    def values(self) -> FormValues:
        """The drill's own fields."""
        data = self.cleaned_data
        group_of = data["group_of"] if data["people"] == People.GROUP else None
        more = {"people": data["people"] or People.SOLO, "group_of": group_of, "kit": data["kit"]}
        more["feeds_judged"] = data["feeds_judged"]
        more["heard"] = data["heard"] if data["kind"] in HEARD_KINDS else ""
        more["fits_from"] = None if data["fits"] is None else data["fits"] / 100
        return (
            {key: data[key] for key in PLAIN}
            | more
            | {"measure": MEASURE.read(self.measure_document()), "lanes": self.lane_names()}
        )


def _field_of(fault: str, kind: str) -> str | None:
    """Which field a fault of the measure belongs to."""
    key = fault.partition(":")[0].split("[")[0].rpartition(".")[2]
    form = form_named(kind)
    return form.typed_names.get(key, "kind") if form else "kind"


def drill_values(drill: Drill) -> FormValues:
    """A drill as its form opens."""
    measure = MEASURE.write(drill.measure)
    return {
        **{key: getattr(drill, key) for key in PLAIN},
        "skill": drill.skill.name if drill.skill else "",
        "people": drill.people,
        "group_of": drill.group_of,
        "feeds_judged": {True: "yes", False: "no", None: ""}[drill.feeds_judged],
        "heard": drill.heard,
        "kit": windows_text(drill.kit),
        "fits": None if drill.fits_from is None else round(drill.fits_from * 100, 2),
        "kind": measure.pop("kind"),
        "score_by": "best",
        "lanes": ", ".join(drill.lanes),
        "revision": drill.revision,
        **{form_of(drill.measure).typed_names[key]: value for key, value in measure.items()},
        "landings": [f"{row['name']} {row['points']}" for row in measure.get("landings", ())],
    }


def read_landings(lines: Sequence[str]) -> list[FormValues]:
    """Lines such as corner 3 as names and points. Raises ValidationError with what cannot be
    read.
    """
    rows = []
    for part in lines:
        name, _, points = part.rpartition(" ")
        number = whole(points, 0, MOST_POINTS)
        if not name.strip() or number is None:
            raise forms.ValidationError(
                f"“{part}” has no points: write a name and a whole number, as corner 3."
            )
        rows.append({"name": name.strip(), "points": number})
    return rows
