"""`./ladder gate`: a simulated timing gate, speaking to the endpoint that a real one would."""

import json
import time
import urllib.error
import urllib.request
from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from drill_ladder.apps.api.simulated_gate import FAULTS, story
from drill_ladder.formats.words import many

ADDRESS = "http://127.0.0.1:8000"
TRIES = 5


class Command(BaseCommand):
    """Runs of a story, sent message by message until each is answered."""

    help = "Simulate a two-beam timing gate over HTTP."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Where, with which token, how many runs, which faults."""
        parser.add_argument("--url", default=ADDRESS, help="where the application runs")
        parser.add_argument("--token", required=True, help="of the open door, with “gate”")
        parser.add_argument("--runs", type=int, default=3)
        parser.add_argument("--seed", type=int, default=1)
        parser.add_argument("--pause", type=float, default=1.0, help="seconds between messages")
        parser.add_argument("--faults", nargs="*", default=[], choices=FAULTS)

    def handle(self, **options: Any) -> None:
        """Send it all."""
        acts = story(options["seed"], options["runs"], options["faults"])
        self.stdout.write(f"Runs: {', '.join(f'{s:.2f} s' for s in acts.seconds)}")
        for number, message in enumerate(acts.messages, 1):
            answer = self._sent(options, message)
            lost = f", not given: {'; '.join(answer['lost'].values())}" if answer["lost"] else ""
            stuck = f", stays broken: {', '.join(answer['stuck'])}" if answer["stuck"] else ""
            again = "" if answer["new"] else " (known already)"
            self.stdout.write(
                f"Message {number}{again}: {many(answer['runs'], 'run')}, {answer['given']} given"
                f"{lost}{stuck}"
            )
            time.sleep(options["pause"])

    def _sent(self, options: dict[str, Any], message: dict[str, object]) -> dict[str, Any]:
        """Until it is answered, as a gate would. Raises CommandError for a refusal."""
        address = f"{options['url'].rstrip('/')}/api/v1/gate/messages"
        head = {"Content-Type": "application/json", "Authorization": f"Bearer {options['token']}"}
        request = urllib.request.Request(  # noqa: S310
            address, json.dumps(message).encode(), head, method="POST"
        )
        for tried in range(TRIES):
            try:
                with urllib.request.urlopen(request, timeout=10) as answer:  # noqa: S310
                    found: dict[str, Any] = json.load(answer)
                    return found
            except urllib.error.HTTPError as error:
                if error.code < 500:
                    raise CommandError(f"{error.code}: {error.read().decode()[:500]}") from error
            except OSError:
                self.stdout.write("No answer; again in a moment.")
            time.sleep(options["pause"] * (tried + 1))
        raise CommandError(f"{address} did not answer {TRIES} times.")
