"""A small document for each verb, and the keys of its answer."""

ONE_PASS = {"school": "one_pass"}
TEN = {"sets": 3, "reps": 10, "s_per_rep": 4}
# ten days of two players, the second rung after the fifth
DAYS = [
    {"player": player, "rung": 1 + day // 5, "before": day, "attempts": 10, "makes": made}
    for player in "ab"
    for day, made in enumerate((5, 6, 8, 7, 8, 5, 6, 6, 7, 8))
]
SMALL = {
    "decide": {
        "ladder": {
            "rungs": [
                {
                    "id": "a",
                    "measure": {"kind": "makes"},
                    "dose": {},
                    "target": {"makes": 8, "of": 10},
                }
            ],
            "rule": ONE_PASS,
        },
        "at": "a",
        "arrived": "2026-03-01",
        "sessions": [],
        "today": "2026-03-01",
    },
    "odds": {"n": 10, "k": 8, "rule": ONE_PASS, "p": [0.6, [0.7]], "horizon": 3},
    "find-rule": {
        "p_not_ready": 0.6,
        "p_ready": 0.9,
        "alpha": 0.1,
        "beta": 0.1,
        "horizon": 4,
        "schools": [ONE_PASS, {"school": "volume", "reps": 9}],
        "max_attempts": 20,
    },
    "place": {"rungs": ["a", "b", "c", "d"]},
    "trend": {"better": "higher", "points": [{"on": "2026-03-01", "score": -1.5}]},
    "change": {"typical_error": 0.1, "before": 5.2, "after": 5, "better": "lower"},
    "balance": {
        "lanes": [
            {"name": "l", "attempts": 9, "makes": 4},
            {"name": "r", "attempts": 9, "makes": 8},
        ]
    },
    "fatigue": {"sessions": [[1, 1, 0], []]},
    "load": {"days": [{"on": "2026-03-01", "effort": 7, "minutes": 30}]},
    "dose": {"reps": 10, "s_per_rep": 4},
    "week": {
        "days": [{"on": "2026-03-01", "minutes": 30, "place": "home"}],
        "wishes": [{"id": "w", "per_week": 2, "minutes": 20, "priority": 1}],
    },
    "stations": {
        "players": 3,
        "stations": [{"name": "s", "capacity": 1, "s_per_rep": 4}],
        "slot_minutes": 2,
    },
    "cues": {"cues": ["l", "r"], "n": 4, "mode": "serial"},
    "layout": {
        "units": "ft",
        "markers": [{"id": "a", "x": 0, "y": 0}, {"id": "b", "x": 3, "y": 4}],
        "legs": [{"from": "a", "to": "b"}],
    },
    "forecast": {"stays": [3, 4, 5], "rungs_left": 2, "sessions_per_week": 2},
    "drop-off": {"rounds": [4.8, 4.9, 5.1]},
    "tempo": {"sets": [{"tempo": 0.5, "attempts": 20, "makes": 18, "faulty": 1}], "limit": 0.1},
    "reads": {"hits": 9, "misses": 2, "false_alarms": 1, "correct_leaves": 10},
    "feeds": {
        "feeds": [{"feeder": "a", "feeds": 9, "good": 7, "makes": 6, "makes_on_good": 5}],
        "policy": "void",
    },
    "turns": {"cap": 5, "players": [{"id": "a", "runs": [5, 2]}, {"id": "b", "runs": []}]},
    "routine": {
        "parts": [{"id": "a", "dose": TEN}, {"id": "b", "dose": {"window_s": 60}, "keep": True}],
        "insert": {"reps": 2, "s_per_rep": 5, "after": ["a"]},
        "minutes": 2,
    },
    "backtest": {
        "rung": {
            "id": "a",
            "measure": {"kind": "makes"},
            "dose": {"reps": 10},
            "target": {"makes": 8, "of": 10},
        },
        "rules": [ONE_PASS, {"school": "window", "passes": 2, "of": 3}],
        "stays": [
            {
                "sessions": [
                    {
                        "on": "2026-03-01",
                        "observer": "self",
                        "sets": [{"attempts": 10, "makes": 8}],
                    }
                ],
                "moved": "up",
                "came_back": True,
            }
        ],
    },
    "calibration": {"forecasts": [{"p": 0.3, "hit": True}, {"p": 1, "hit": False}]},
    "ladder-health": {
        "rungs": ["a", "b"],
        "stays": [
            {
                "rung": "b",
                "sessions": 3,
                "left": "up",
                "first": {"attempts": 10, "makes": 4},
                "first_below": {"attempts": 10, "makes": 7},
                "low_first": False,
            }
        ],
    },
    "day-spread": {
        "stays": [
            {
                "lane": "left",
                "days": [
                    {"on": f"2026-03-0{n}", "attempts": 10, "makes": made}
                    for n, made in enumerate((6, 9, 5, 8), 1)
                ],
            }
        ]
    },
    "learning": {"measure": "counts", "days": DAYS},
    "outlook": {
        "measure": "counts",
        "days": DAYS,
        "player": "a",
        "rung": 1,
        "rule": {"school": "in_a_row", "passes": 2},
        "n": 10,
        "k": 7,
        "runs": 200,
    },
    "kept": {"weeks": [{"planned": 3, "done": 2}, {"planned": 2, "done": 2, "days": 4}]},
}
KEYS = {
    "decide": {"decision", "to", "verdicts", "missing", "reasons", "odds_next"},
    "odds": {"results"},
    "find-rule": {"results"},
    "place": {"next", "fitted", "start"},
    "trend": {"verdict", "slope_per_week", "low", "high", "p", "n", "method"},
    "change": {
        "typical_error",
        "mdc95",
        "z",
        "p_real",
        "verdict",
        "direction",
        "smallest_worthwhile",
        "df",
        "p_chance",
    },
    "balance": {"gap", "low", "high", "real", "weaker", "practice_share", "cover_share", "e"},
    "fatigue": {"early", "late", "drop", "low", "high", "flagged"},
    "load": {"weeks"},
    "dose": {"seconds", "reps", "warnings"},
    "week": {"blocks", "unmet"},
    "stations": {"slots", "players", "left_out", "idle_share", "queue_reps", "gain"},
    "cues": {"sequence"},
    "layout": {"legs_m", "path_m", "turns", "footprint_m", "fits", "scale"},
    "forecast": {"sessions", "weeks"},
    "drop-off": {"best", "drops", "stop_after", "counted"},
    "tempo": {"tempos", "fastest_clean", "next", "latest_clean"},
    "reads": {
        "hit_rate",
        "false_alarm_rate",
        "d_prime",
        "criterion",
        "accuracy",
        "right_share",
        "carried_share",
    },
    "feeds": {"feeders", "rate", "rate_on_good", "counted"},
    "turns": {"players"},
    "routine": {"seconds", "parts", "inserts", "cut", "left_out", "fits"},
    "backtest": {"results"},
    "calibration": {"n", "brier", "brier_base", "bins"},
    "ladder-health": {"rungs", "median"},
    "day-spread": {"spread", "raw", "df", "phi"},
    "learning": {"gain", "steps", "players", "days"},
    "outlook": {"chance", "median", "low", "high"},
    "kept": {"done", "planned", "share", "weeks_in_row"},
}
