"""All that a worker needs, loaded and run once: what workers are forked from imports this, so that each of them begins at once."""

from drylamp.demo.scenario import warm_case
from drylamp.web import app, settings  # noqa: F401 - loaded for whoever is forked

warm_case()
