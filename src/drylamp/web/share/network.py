"""Under which addresses the house's network finds this machine."""

from __future__ import annotations

import ipaddress
import socket

import ifaddr

LOOPBACK = "127.0.0.1"


def own_addresses() -> list[str]:
    """This machine's IPv4 addresses in networks that no stranger shares: private ones, the likeliest first; its loopback where it has no other."""
    found = [
        str(ip.ip)
        for adapter in ifaddr.get_adapters()
        for ip in adapter.ips
        if isinstance(ip.ip, str)
        and _in_a_house(ip.ip)
        and not adapter.nice_name.startswith(("docker", "br-", "veth", "virbr"))
    ]
    return sorted(set(found), key=lambda address: (not address.startswith("192.168."), address)) or [LOOPBACK]


def _in_a_house(address: str) -> bool:
    ip = ipaddress.ip_address(address)
    return ip.is_private and not ip.is_loopback and not ip.is_link_local


def own_names() -> list[str]:
    """What this machine calls itself, plainly and as networks without a name server find it."""
    name = socket.gethostname().split(".")[0].lower()
    return [name, f"{name}.local"] if name.replace("-", "").isalnum() else []
