"""The salon's own certificates: right for its addresses, held to private ones, kept as long as they hold."""

from __future__ import annotations

import ipaddress
import ssl
import stat
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.serialization import Encoding
from cryptography.x509 import verification
from hypothesis import given
from hypothesis import strategies as st

from dapwick.devices.certificates import (
    AUTHORITY_DAYS,
    FOLDER,
    RENEWED_DAYS_BEFORE,
    SERVER_DAYS,
    _authority,
    _may_sign,
    _server,
    certificates_in,
)

NAMES = ("localhost", "127.0.0.1", "::1", "192.168.7.20", "table.local")
NOW = datetime(2026, 3, 5, 9, 0, tzinfo=UTC)


def at(name: str) -> x509.verification.Subject:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def trusts(authority_der: bytes, chain_pem: bytes, name: str, when: datetime = NOW) -> bool:
    """Whether somebody who trusts the authority takes the server for `name`, by the whole of the usual rules."""
    store = verification.Store([x509.load_der_x509_certificate(authority_der)])
    first, *others = x509.load_pem_x509_certificates(chain_pem)
    verifier = verification.PolicyBuilder().store(store).time(when).build_server_verifier(at(name))
    try:
        verifier.verify(first, others)
    except verification.VerificationError:
        return False
    return True


@pytest.mark.parametrize("name", NAMES)
def test_who_trusts_the_salon_trusts_every_name_it_answers_to(tmp_path: Path, name: str) -> None:
    made = certificates_in(tmp_path, NAMES, NOW)
    assert trusts(made.authority_der, made.chain.read_bytes(), name)
    assert not trusts(made.authority_der, made.chain.read_bytes(), "192.168.7.21")
    assert not made.renewed


def test_another_salon_is_not_trusted(tmp_path: Path) -> None:
    ours, theirs = (certificates_in(tmp_path / one, NAMES, NOW) for one in ("ours", "theirs"))
    assert not trusts(ours.authority_der, theirs.chain.read_bytes(), "192.168.7.20")
    assert ours.fingerprint != theirs.fingerprint


@pytest.mark.parametrize(
    "name", ["bank.example", "93.184.216.34", "2001:db8::1", "notlocal", "evil.localhost.example"]
)
def test_whoever_gets_hold_of_the_key_signs_for_no_name_of_the_world(name: str) -> None:
    authority = _authority(NAMES, NOW)
    forged = _server(authority, [name], NOW)
    pems = b"".join(one.certificate.public_bytes(Encoding.PEM) for one in (forged, authority))
    assert not _may_sign(authority.certificate, name)
    assert not trusts(authority.certificate.public_bytes(Encoding.DER), pems, name)


@given(st.lists(st.ip_addresses(v=4).map(str), min_size=1, max_size=4))
def test_its_own_address_may_be_any(addresses: list[str]) -> None:
    """A salon on a line with a public address is still reached by it, and by that one alone."""
    authority = _authority(addresses, NOW)
    assert all(_may_sign(authority.certificate, one) for one in addresses)


def test_they_are_kept_while_they_hold_and_the_server_has_the_same_names(tmp_path: Path) -> None:
    first = certificates_in(tmp_path, NAMES, NOW)
    chain = first.chain.read_bytes()
    again = certificates_in(tmp_path, NAMES, NOW + timedelta(days=SERVER_DAYS - RENEWED_DAYS_BEFORE - 1))
    assert (again.authority_der, again.chain.read_bytes()) == (first.authority_der, chain)
    late = certificates_in(tmp_path, NAMES, NOW + timedelta(days=SERVER_DAYS - RENEWED_DAYS_BEFORE + 1))
    assert late.authority_der == first.authority_der
    assert late.chain.read_bytes() != chain
    moved = certificates_in(tmp_path, (*NAMES, "192.168.7.31"), NOW)
    assert moved.authority_der == first.authority_der
    assert trusts(moved.authority_der, moved.chain.read_bytes(), "192.168.7.31")
    assert not moved.renewed


def test_a_new_authority_says_so(tmp_path: Path) -> None:
    first = certificates_in(tmp_path, NAMES, NOW)
    old = certificates_in(tmp_path, NAMES, NOW + timedelta(days=AUTHORITY_DAYS))
    assert old.renewed
    assert old.authority_der != first.authority_der
    named = certificates_in(tmp_path, ("salon.example",), NOW + timedelta(days=AUTHORITY_DAYS))
    assert named.renewed
    assert trusts(
        named.authority_der, named.chain.read_bytes(), "salon.example", NOW + timedelta(days=AUTHORITY_DAYS)
    )


@pytest.mark.parametrize("file", ["authority.pem", "authority.key", "server.pem", "server.key"])
@pytest.mark.parametrize("damage", [b"", b"-----BEGIN CERTIFICATE-----\nnonsense\n", None])
def test_a_damaged_file_is_made_anew(tmp_path: Path, file: str, damage: bytes | None) -> None:
    certificates_in(tmp_path, NAMES, NOW)
    path = tmp_path / FOLDER / file
    path.unlink() if damage is None else path.write_bytes(damage)
    again = certificates_in(tmp_path, NAMES, NOW)
    assert trusts(again.authority_der, again.chain.read_bytes(), "192.168.7.20")
    ssl.create_default_context(ssl.Purpose.CLIENT_AUTH).load_cert_chain(again.chain, again.key)


def test_keys_are_their_owners_alone(tmp_path: Path) -> None:
    certificates_in(tmp_path, NAMES, NOW)
    for key in (tmp_path / FOLDER).glob("*.key"):
        assert stat.S_IMODE(key.stat().st_mode) == 0o600
    assert stat.S_IMODE((tmp_path / FOLDER).stat().st_mode) == 0o700


def test_the_fingerprint_is_that_of_what_the_tablet_takes_in(tmp_path: Path) -> None:
    made = certificates_in(tmp_path, NAMES, NOW)
    told = x509.load_der_x509_certificate(made.authority_der).fingerprint(hashes.SHA256()).hex()
    assert made.fingerprint.replace(" ", "").lower() == told
