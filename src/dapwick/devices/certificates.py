"""The salon's own certificates: an authority that a tablet trusts once, and the server's certificate under it.

Without https a browser gives a page on the local network no camera and keeps nothing for when the server is away. No
outside authority signs for a machine without a public name, so the salon has its own. What a tablet then trusts is
held small: the authority may sign for private addresses and local names alone, whoever got hold of its key.
"""

from __future__ import annotations

import contextlib
import ipaddress
import os
from collections.abc import Collection
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Final

from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import (
    Encoding,
    NoEncryption,
    PrivateFormat,
    load_pem_private_key,
)
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

FOLDER: Final = "certificates"
"""In the salon's folder; no backup holds it: keys stay on their machine."""
AUTHORITY_DAYS: Final = 3650
SERVER_DAYS: Final = 390
"""Tablets refuse server certificates that hold for much more than a year."""
RENEWED_DAYS_BEFORE: Final = 60
PRIVATE: Final = (
    "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "127.0.0.0/8", "169.254.0.0/16", "100.64.0.0/10",
    "fc00::/7", "fe80::/10", "::1/128",
)  # fmt: skip
LOCAL_NAMES: Final = ("local", "lan", "internal", "home.arpa", "localhost")


@dataclass(frozen=True)
class Certificates:
    """chain, key: PEM files that a server opens with; authority_der: what a tablet takes in to trust the salon;
    fingerprint: SHA-256 of it, in pairs of hex digits; renewed: tablets that trusted an earlier authority have to
    trust this one."""

    chain: Path
    key: Path
    authority_der: bytes
    fingerprint: str
    renewed: bool


@dataclass(frozen=True)
class _Signed:
    certificate: x509.Certificate
    key: ec.EllipticCurvePrivateKey


def certificates_in(salon: Path, names: Collection[str], now: datetime | None = None) -> Certificates:
    """The salon's certificates for the names and addresses it answers to; what is missing, old or for other names is
    made anew. Keys are readable by their owner alone."""
    folder, moment = salon / FOLDER, now or datetime.now(UTC)
    folder.mkdir(parents=True, exist_ok=True)
    folder.chmod(0o700)
    before = _read(folder / "authority.pem", folder / "authority.key")
    kept = (
        before and _holds(before.certificate, moment) and all(_may_sign(before.certificate, n) for n in names)
    )
    authority = before if before and kept else _authority(names, moment)
    if authority is not before:
        _write(folder / "authority.pem", folder / "authority.key", authority)
    server = _read(folder / "server.pem", folder / "server.key")
    if not (server and _holds(server.certificate, moment) and _is_for(server.certificate, authority, names)):
        _write(folder / "server.pem", folder / "server.key", _server(authority, names, moment), authority)
    digest = authority.certificate.fingerprint(hashes.SHA256()).hex().upper()
    return Certificates(
        folder / "server.pem",
        folder / "server.key",
        authority.certificate.public_bytes(Encoding.DER),
        " ".join(digest[i : i + 4] for i in range(0, len(digest), 4)),
        before is not None and authority is not before,
    )


def _authority(names: Collection[str], now: datetime) -> _Signed:
    key = ec.generate_private_key(ec.SECP256R1())
    said = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Dapwick salon, {now:%d %b %Y}")])
    made = (
        _begun(said, said, key, now, AUTHORITY_DAYS)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_usage(signs_certificates=True), critical=True)
        .add_extension(x509.NameConstraints(_permitted(names), None), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
    )
    return _Signed(made.sign(key, hashes.SHA256()), key)


def _server(authority: _Signed, names: Collection[str], now: datetime) -> _Signed:
    key = ec.generate_private_key(ec.SECP256R1())
    said = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Dapwick salon’s server")])
    identifier = x509.AuthorityKeyIdentifier.from_issuer_public_key(authority.key.public_key())
    made = (
        _begun(said, authority.certificate.subject, key, now, SERVER_DAYS)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs_certificates=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.SubjectAlternativeName([_name(n) for n in sorted(names)]), critical=False)
        .add_extension(identifier, critical=False)
    )
    return _Signed(made.sign(authority.key, hashes.SHA256()), key)


def _begun(
    subject: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePrivateKey, now: datetime, days: int
) -> x509.CertificateBuilder:
    """A day early: the clocks of tablets differ."""
    return (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(issuer)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + timedelta(days=days))
    )


def _usage(signs_certificates: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs_certificates,
        key_cert_sign=signs_certificates,
        crl_sign=signs_certificates,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        encipher_only=False,
        decipher_only=False,
    )


def _address(name: str) -> ipaddress.IPv4Address | ipaddress.IPv6Address | None:
    try:
        return ipaddress.ip_address(name.split("%")[0])
    except ValueError:
        return None


def _name(name: str) -> x509.GeneralName:
    address = _address(name)
    return x509.IPAddress(address) if address else x509.DNSName(name)


def _permitted(names: Collection[str]) -> list[x509.GeneralName]:
    """Private addresses and local names, and what this machine is called besides."""
    own = [n for n in sorted(names) if not any(_within(n, one) for one in (*PRIVATE, *LOCAL_NAMES))]
    networks = [*PRIVATE, *(n for n in own if _address(n))]
    return [
        *(x509.IPAddress(ipaddress.ip_network(n)) for n in networks),
        *(x509.DNSName(n) for n in (*LOCAL_NAMES, *own) if not _address(n)),
    ]


def _within(name: str, room: str) -> bool:
    """Whether a name or address lies in a domain or network."""
    address = _address(name)
    if address is None:
        return name == room or name.endswith(f".{room}")
    try:
        network = ipaddress.ip_network(room)
    except ValueError:
        return False
    return address.version == network.version and address in network


def _may_sign(authority: x509.Certificate, name: str) -> bool:
    rooms = authority.extensions.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees or []
    return any(_within(name, str(one.value)) for one in rooms)


def _is_for(server: x509.Certificate, authority: _Signed, names: Collection[str]) -> bool:
    """Of exactly these names, and by this authority."""
    told = server.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    try:
        server.verify_directly_issued_by(authority.certificate)
    except Exception:  # whatever is wrong with it, it is made anew
        return False
    return {one.value for one in told} == {_name(n).value for n in names}


def _holds(certificate: x509.Certificate, now: datetime) -> bool:
    soon = now + timedelta(days=RENEWED_DAYS_BEFORE)
    return certificate.not_valid_before_utc <= now and soon < certificate.not_valid_after_utc


def _read(pem: Path, key: Path) -> _Signed | None:
    """None where there is none, or none that can be read."""
    with contextlib.suppress(OSError, ValueError, TypeError):
        loaded = load_pem_private_key(key.read_bytes(), None)
        certificate = x509.load_pem_x509_certificate(pem.read_bytes())
        if isinstance(loaded, ec.EllipticCurvePrivateKey) and loaded.public_key() == certificate.public_key():
            return _Signed(certificate, loaded)
    return None


def _write(pem: Path, key: Path, signed: _Signed, above: _Signed | None = None) -> None:
    """above: the authority, which the server shows with its own."""
    secret = signed.key.private_bytes(Encoding.PEM, PrivateFormat.PKCS8, NoEncryption())
    chain = [signed, above] if above else [signed]
    _put(key, secret)
    _put(pem, b"".join(one.certificate.public_bytes(Encoding.PEM) for one in chain))


def _put(path: Path, data: bytes) -> None:
    new = path.with_suffix(path.suffix + ".new")
    with os.fdopen(os.open(new, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as out:
        out.write(data)
    new.replace(path)
