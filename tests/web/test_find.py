"""Finding builds, parts, trials, sums, sayings and materials over the wire."""

import pytest


def find(client, q: str, site: int = 1) -> list[dict]:
    answer = client.get("/api/find", query_string={"site_id": site, "q": q})
    assert answer.status_code == 200, answer.text
    return answer.get_json()


@pytest.mark.parametrize(
    ("q", "what", "title"),
    [
        ("hatbox", "build", "Hatbox oven"), ("lining", "part", "Lining"), ("noon", "trial", "Noon look"), ("boils", "sum", "Where water boils"), ("shiny side", "saying", "Shiny side of the foil out."),
        ("window glass", "material", "Window glass"), ("widnow", "material", "Window glass"),
    ],
)  # fmt: skip
def test_everything_that_has_a_name_is_found(client, build, trial, q, what, title):
    assert (what, title) in [(found["what"], found["title"]) for found in find(client, q)]


def test_only_what_is_of_the_site_and_never_many(client, build):
    assert find(client, "") == []
    assert len(find(client, "a")) <= 12
    assert client.get("/api/find?site_id=9&q=x").status_code == 404
    assert client.get("/api/find", query_string={"site_id": 1, "q": "x" * 81}).status_code == 422
