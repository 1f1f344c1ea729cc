"""A network that can be cut: a small relay in front of the server, so that page and worker both
lose it, or an answer gets lost after the server has stored what was sent.
"""

import socket
import threading
from contextlib import suppress
from time import sleep

CHUNK = 65536


class Relay:
    """Listens on a port of its own on loopback. cut: nobody gets through, but for what is asked
    below the path `spared`; lose: how many answers to what is sent (POST) get lost on their way;
    delay: seconds that each request takes longer.
    """

    def __init__(self, host: str, port: int) -> None:
        self.server, self.cut, self.lose = (host, port), False, 0
        self.spared, self.delay = "", 0.0
        self.lock = threading.Lock()
        self.listener = socket.create_server(("127.0.0.1", 0))
        self.port = self.listener.getsockname()[1]
        threading.Thread(target=self._serve, daemon=True).start()

    def close(self) -> None:
        """No more."""
        self.listener.close()

    def _serve(self) -> None:
        while True:
            try:
                client, _ = self.listener.accept()
            except OSError:
                return
            threading.Thread(target=self._relay, args=(client,), daemon=True).start()

    def _relay(self, client: socket.socket) -> None:
        """One request and its answer: connections are not kept, so that a cut is felt at once."""
        with client, suppress(OSError):
            if self.cut and not self.spared:
                return
            request = _request(client)
            if not request or self._is_cut(request):
                return
            sleep(self.delay)
            with socket.create_connection(self.server) as server:
                server.sendall(_closing(request))
                answer = b"".join(iter(lambda: server.recv(CHUNK), b""))
            if request.startswith(b"POST") and self._is_lost():
                return
            client.sendall(answer)

    def _is_cut(self, request: bytes) -> bool:
        spared = self.spared and request.startswith(f"GET {self.spared}".encode())
        return self.cut and not spared

    def _is_lost(self) -> bool:
        with self.lock:
            lost, self.lose = self.lose > 0, max(0, self.lose - 1)
        return lost


def _request(client: socket.socket) -> bytes:
    """Head and body of a request."""
    data = b""
    while b"\r\n\r\n" not in data:
        part = client.recv(CHUNK)
        if not part:
            return b""
        data += part
    head, _, body = data.partition(b"\r\n\r\n")
    length = 0
    for line in head.split(b"\r\n"):
        if line.lower().startswith(b"content-length:"):
            length = int(line.split(b":")[1])
    while len(body) < length:
        body += client.recv(CHUNK)
    return head + b"\r\n\r\n" + body


def _closing(request: bytes) -> bytes:
    head, _, body = request.partition(b"\r\n\r\n")
    kept = [line for line in head.split(b"\r\n") if not line.lower().startswith(b"connection:")]
    return b"\r\n".join([*kept, b"Connection: close"]) + b"\r\n\r\n" + body
