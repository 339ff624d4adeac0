"""This machine on the local network: the names and addresses by which tablets reach it."""

from __future__ import annotations

import contextlib
import ipaddress
import socket
from collections.abc import Collection
from dataclasses import dataclass
from typing import Final

HERE: Final = ("localhost", "127.0.0.1", "::1")


@dataclass(frozen=True)
class Reach:
    """hosts: names in a request's Host header that mean this salon; network: reachable from other machines, so that
    the passcode counts; address: what a tablet opens, None where only this machine can; plain: where it begins, over
    http, when address is https: what a phone scans before it trusts the salon."""

    hosts: frozenset[str]
    network: bool
    address: str | None
    plain: str | None = None

    def knows(self, host_header: str) -> bool:
        return host_name(host_header) in self.hosts

    @property
    def first(self) -> str | None:
        """What somebody opens who has never been here."""
        return self.plain or self.address


ONLY_HERE: Final = Reach(frozenset(HERE), False, None)


def reach_of(host: str, port: int, more: Collection[str] = (), secure_port: int = 0) -> Reach:
    """How a server bound to `host` can be reached. more: names that a router or a name server gave this machine.
    secure_port: where it answers over https too; 0: it does not."""
    if is_here(host):
        return Reach(frozenset({*HERE, *more}), False, None)
    own = own_addresses() if host in ("0.0.0.0", "::", "") else [host]
    name = socket.gethostname().lower()
    names = {*HERE, *own, *map(str.lower, more), name, f"{name}.local"}
    shown = next(iter(more), None) or next(iter(own), name)
    plain = f"http://{_bracketed(shown)}:{port}"
    if not secure_port:
        return Reach(frozenset(names), True, plain)
    return Reach(frozenset(names), True, f"https://{_bracketed(shown)}:{secure_port}", plain)


def is_here(host: str) -> bool:
    """Bound to this machine only."""
    if host == "localhost":
        return True
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return False


def own_addresses() -> list[str]:
    """This machine's addresses that others can reach, the one that leads out first. Nothing is sent: a datagram
    socket that is only connected tells which address it would use."""
    found = []
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))
            found.append(probe.getsockname()[0])
        except OSError:
            pass
    with contextlib.suppress(OSError):
        found += [str(info[4][0]) for info in socket.getaddrinfo(socket.gethostname(), None)]
    return [a for a in dict.fromkeys(found) if not ipaddress.ip_address(a.split("%")[0]).is_loopback]


def host_name(header: str) -> str:
    """The name in a Host header, without its port."""
    name = header.strip().lower()
    if name.startswith("["):
        return name[1:].split("]")[0]
    return name.rsplit(":", 1)[0] if name.count(":") == 1 else name


def _bracketed(address: str) -> str:
    return f"[{address}]" if ":" in address else address
