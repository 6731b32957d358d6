"""Kill the server during writes: every acknowledged reading is there afterwards."""

import http.client
import json
import threading
import time
import urllib.parse
import urllib.request

from drylamp.demo.scenario import OVEN, TERRACE
from tests.serving import Server


def post(url: str, path: str, body: dict) -> dict:
    request = urllib.request.Request(url + path, json.dumps(body).encode(), {"Content-Type": "application/json"})
    with urllib.request.urlopen(request, timeout=90) as answer:
        return json.load(answer)


def make_trial(url: str) -> int:
    post(url, "/api/sites", TERRACE.model_dump(mode="json"))
    build = post(url, "/api/builds", {"site_id": 1, "name": "Oven", "spec": OVEN.model_dump(mode="json")})
    channel = {"name": "tray", "title": "tray", "node": "tray", "instrument": "logger"}
    body = {"build_id": build["id"], "name": "log", "protocol": "free-log", "channels": [channel],
            "started": "2025-06-12T08:00:00Z"}  # fmt: skip
    return post(url, "/api/trials", body)["id"]


class Writer(threading.Thread):
    """Posts readings one small batch after the other and remembers what was acknowledged."""

    def __init__(self, url: str, trial: int, lane: int) -> None:
        super().__init__()
        self.url, self.trial, self.lane = url, trial, lane
        self.acknowledged: list[str] = []

    def run(self) -> None:
        for k in range(1500):
            times = [f"2025-06-12T{9 + self.lane}:{k // 60 % 60:02d}:{k % 60:02d}.{10 * m:03d}+00:00" for m in range(3)]
            rows = [{"channel": "tray", "time": t, "value": 50 + k % 7} for t in times]
            try:
                answer = post(self.url, f"/api/trials/{self.trial}/readings", {"source": "logger", "readings": rows})
            except (OSError, http.client.HTTPException):
                return
            assert answer["written"] == 3
            self.acknowledged += times


def test_every_acknowledged_reading_survives(tmp_path):
    lost, acknowledged = [], []
    trial = None
    for round_ in range(2):
        server = Server(tmp_path)
        try:
            trial = trial or make_trial(server.url)
            writers = [Writer(server.url, trial, 2 * round_ + lane) for lane in range(2)]
            for writer in writers:
                writer.start()
            while sum(len(w.acknowledged) for w in writers) < 450:
                time.sleep(0.01)
        finally:
            server.kill()
        for writer in writers:
            writer.join(20)
            acknowledged += writer.acknowledged
    server = Server(tmp_path)
    try:
        with urllib.request.urlopen(f"{server.url}/api/trials/{trial}/export.json", timeout=90) as answer:
            kept = {
                r["time"].replace("Z", "+00:00")[:23].rstrip("0").rstrip(".") for r in json.load(answer)["readings"]
            }
    finally:
        server.end()
    lost = [t for t in acknowledged if t[:23].rstrip("0").rstrip(".") not in {k.split("+")[0] for k in kept}]
    assert len(acknowledged) >= 500
    assert lost == []
