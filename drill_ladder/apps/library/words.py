"""The library's fields, as a person says them."""

Told = dict[str, str]
PLAIN = {
    "title": "Name",
    "purpose": "What it is for",
    "how": "How it is done",
    "cues": "Cues",
    "checkpoints": "Technique to look for",
    "faults": "Faults",
    "lanes": "Lanes",
    "caution_note": "Safety first",
    "worn": "Worn each time",
    "tools": "Tools",
    "surfaces": "Surfaces",
    "axes": "Can get harder by",
    "strain": "What it asks of a body",
    "sources": "Where it comes from",
}


# every field of a file's drill or ladder, as a person says it
WORDS = PLAIN | {
    "skill": "Skill",
    "caution": "Where it may go",
    "only_fresh": "Contact or all-out effort",
    "people": "Who it takes",
    "group_of": "Size of the group",
    "feeds_judged": "Bad feeds",
    "heard": "Counted by ear",
    "measure": "Measure",
    "wall": "Wall",
    "fits_from": "Fits from",
    "lanes_are": "Left and right",
    "kit": "Tools by height",
    "plan": "Floor plan",
    "versions": "With less",
    "treatments": "What treats its faults",
    "rule": "Rule",
    "rungs": "Rungs",
}
