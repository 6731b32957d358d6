"""Networks of heat: nodes, links, and the one marcher that advances any of them."""
