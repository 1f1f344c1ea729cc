// Reads rows of strokes as the card keeps them, for tests/db/test_folds_alike.py: [[row, names], ...] -> what they come to.
import { readFileSync } from "node:fs";
import { attemptsOf, easierAfter, faultsOf, goodOf } from "../../assets/js/instruments/strokes.js";

const asked = JSON.parse(readFileSync(0, "utf8"));
console.log(JSON.stringify(asked.map(([row, names, eased]) => [attemptsOf(row), goodOf(row), faultsOf(row, names), easierAfter(row, eased)])));
