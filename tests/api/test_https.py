"""Over the network: https with the salon's own certificate, and plain http for the first step alone."""

from __future__ import annotations

import asyncio
import ssl
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import httpx
import pytest
from cryptography import x509
from cryptography.hazmat.primitives.serialization import Encoding
from running import free_port

from dapwick.api.app import make_app
from dapwick.api.listening import Listening, servers, together
from dapwick.devices.certificates import Certificates, certificates_in
from dapwick.devices.network import Reach, reach_of
from dapwick.records.store import SalonStore
from dapwick.service.salon.passcode import Passcode

CODE = "harbour-7"
NAME = "table.local"


@dataclass(frozen=True)
class Open:
    reach: Reach
    port: int
    secure_port: int
    papers: Certificates

    @property
    def plain(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    @property
    def secure(self) -> str:
        return f"https://127.0.0.1:{self.secure_port}"

    def trusting(self) -> ssl.SSLContext:
        """A tablet that took the certificate in."""
        pem = x509.load_der_x509_certificate(self.papers.authority_der).public_bytes(Encoding.PEM)
        return ssl.create_default_context(cadata=pem.decode())


@contextmanager
def opened(store: SalonStore, web: Path, secure: bool = True) -> Iterator[Open]:
    port, secure_port = free_port(), free_port()
    reach = reach_of("192.168.7.20", port, (NAME,), secure_port)
    papers = certificates_in(store.folder, reach.hosts)
    app = make_app(store, web, reach, certificates=papers)
    both = servers(app, Listening("127.0.0.1", port, secure_port, papers if secure else None))
    thread = threading.Thread(target=lambda: asyncio.run(together(both)), daemon=True)
    thread.start()
    while not all(one.started for one in both):
        time.sleep(0.02)
    yield Open(reach, port, secure_port, papers)
    both[0].should_exit = True
    thread.join(30)
    assert not thread.is_alive()
    assert not any(one.started and not one.should_exit for one in both)


@pytest.fixture
def salon(store: SalonStore, tmp_path: Path) -> Iterator[Open]:
    Passcode(store).change(CODE)
    (tmp_path / "dist").mkdir()
    (tmp_path / "dist" / "index.html").write_text("<title>Dapwick</title>")
    with opened(store, tmp_path / "dist") as one:
        yield one


def test_a_tablet_that_trusts_the_salon_comes_in_over_https(salon: Open) -> None:
    with httpx.Client(base_url=salon.secure, verify=salon.trusting()) as tablet:
        assert tablet.get("/").text == "<title>Dapwick</title>"
        assert tablet.get("/api/today").status_code == 401
        entered = tablet.post("/api/entrance", json={"code": CODE})
        assert "secure" in entered.headers["set-cookie"].lower()
        assert tablet.get("/api/today").status_code == 200
        assert "manifest-src 'self'" in tablet.get("/").headers["content-security-policy"]


def test_one_that_does_not_is_told_by_its_browser(salon: Open) -> None:
    with pytest.raises(httpx.ConnectError, match="CERTIFICATE_VERIFY_FAILED"):
        httpx.get(salon.secure)


def test_plain_http_from_the_network_gives_the_way_in_and_nothing_of_the_salon(salon: Open) -> None:
    with httpx.Client(base_url=salon.plain, headers={"Host": f"{NAME}:{salon.port}"}) as tablet:
        page = tablet.get("/dogs/1/cut")
        assert page.text == "<title>Dapwick</title>"
        assert f"connect-src 'self' {salon.reach.address};" in page.headers["content-security-policy"]
        told = tablet.get("/api/trust").json()
        assert told == {"secure": salon.reach.address, "fingerprint": salon.papers.fingerprint}
        taken = tablet.get("/api/trust/authority.crt")
        assert taken.content == salon.papers.authority_der
        assert taken.headers["content-type"] == "application/x-x509-ca-cert"
        for path in ("/api/today", "/api/entrance", "/api/salon", "/api/openapi.json"):
            refused = tablet.get(path)
            assert refused.status_code in (401, 403)
            assert "Dapwick" not in refused.text
        # The passcode itself is never sent in the open.
        given = tablet.post("/api/entrance", json={"code": CODE})
        assert given.status_code == 403
        assert str(salon.reach.address) in given.json()["message"]


def test_this_machine_itself_needs_no_https(salon: Open) -> None:
    with httpx.Client(base_url=salon.plain) as here:
        assert here.post("/api/entrance", json={"code": CODE}).json()["entered"]
        assert here.get("/api/today").status_code == 200


def test_whether_it_is_trusted_may_be_asked_from_the_plain_page(salon: Open) -> None:
    told = httpx.get(f"{salon.secure}/api/trust", verify=salon.trusting(), headers={"Origin": salon.plain})
    assert told.headers["access-control-allow-origin"] == "*"
    assert told.headers["cross-origin-resource-policy"] == "cross-origin"
    here = httpx.get(f"{salon.secure}/", verify=salon.trusting())
    assert here.headers["cross-origin-resource-policy"] == "same-origin"


def test_a_salon_without_https_offers_no_certificate(store: SalonStore) -> None:
    from fastapi.testclient import TestClient

    with TestClient(make_app(store), base_url="http://127.0.0.1") as here:
        assert here.get("/api/trust").json() == {"secure": None, "fingerprint": None}
        assert here.get("/api/trust/authority.crt").status_code == 404


def test_a_port_that_is_taken_ends_both_with_a_word(store: SalonStore, salon: Open) -> None:
    """The second start on the same port does not hang with half a server."""
    at = Listening("127.0.0.1", salon.port, free_port(), salon.papers)
    with pytest.raises(SystemExit):
        asyncio.run(asyncio.wait_for(together(servers(make_app(None), at)), 20))
