"""The words of the trade that a child meets, each explained once, in a child's words."""

WORDS = {
    "ladder": "A row of steps from easy to hard for one skill.",
    "rung": "One step of a ladder. When you can do it, you go up to the next one.",
    "do": "How many you do today, and in how many goes.",
    "target": "What to reach before the step counts as passed.",
    "lane": "A side or a spot, such as left and right. Each one is counted by itself.",
    "miss": "One that was not good. Misses are part of it: they show what to work on.",
    "near": "Almost there: good, but not yet the target.",
    "technique": "How it looks when you do it, not how many go in.",
    "fault": "What went wrong in a miss. Knowing it helps you mend it.",
    "feed": "How the ball comes to you: gently first, and harder when it goes well.",
    "bad feed": "The ball came badly. It does not count, and it was not your fault.",
}
