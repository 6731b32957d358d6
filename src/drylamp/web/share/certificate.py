"""A certificate of this server's own, made once and kept in the data folder; whoever pairs compares its fingerprint."""

from __future__ import annotations

import ipaddress
import os
import ssl
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from drylamp.core.checks import InputProblem

KEY_NAME, CERTIFICATE_NAME = "share-key.pem", "share-certificate.pem"
VALID, RENEWED_BEFORE = timedelta(days=820), timedelta(days=30)
"""Phones refuse certificates of their own making that last longer than 825 days."""
BACKDATED = timedelta(days=1)
"""A phone's clock may be behind."""


@dataclass(frozen=True)
class Identity:
    """Where key and certificate are, what the certificate's fingerprint is (SHA-256, in pairs), and whether it was just made."""

    key: Path
    certificate: Path
    fingerprint: str
    is_new: bool

    def context(self) -> ssl.SSLContext:
        """What a listener needs; nothing older than TLS 1.2."""
        made = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        made.minimum_version = ssl.TLSVersion.TLSv1_2
        made.load_cert_chain(self.certificate, self.key)
        return made


def identity(folder: Path, names: Sequence[str], now: datetime) -> Identity:
    """The server's key and certificate: those that it has, or new ones where they are missing, near their end, or of other addresses.

    Raises
    ------
    InputProblem
        they cannot be read or written.
    """
    key, certificate = folder / KEY_NAME, folder / CERTIFICATE_NAME
    try:
        found = _kept(key, certificate, names, now)
        if found is None:
            found = _made(key, certificate, names, now)
            return Identity(key, certificate, fingerprint(found), True)
        return Identity(key, certificate, fingerprint(found), False)
    except OSError as error:
        raise InputProblem("share", f"{folder} must hold the key of the shared address ({error.strerror})") from None


def fingerprint(certificate: x509.Certificate) -> str:
    """SHA-256 of a certificate as browsers show it."""
    return ":".join(f"{byte:02X}" for byte in certificate.fingerprint(hashes.SHA256()))


def _kept(key: Path, certificate: Path, names: Sequence[str], now: datetime) -> x509.Certificate | None:
    """The certificate that is there, if it is still to be used."""
    if not (key.exists() and certificate.exists()):
        return None
    key.chmod(0o600)
    try:
        found = x509.load_pem_x509_certificate(certificate.read_bytes())
        private = serialization.load_pem_private_key(key.read_bytes(), None)
    except ValueError:
        return None
    belongs = private.public_key() == found.public_key()
    lasts = found.not_valid_after_utc - RENEWED_BEFORE > now >= found.not_valid_before_utc
    return found if belongs and lasts and set(names) <= _names_of(found) else None


def _names_of(certificate: x509.Certificate) -> set[str]:
    named = certificate.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    return {str(one.value) for one in named}


def _general(name: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def _made(key: Path, certificate: Path, names: Sequence[str], now: datetime) -> x509.Certificate:
    """A new key and a certificate of it for some names, signed by itself."""
    private = ec.generate_private_key(ec.SECP256R1())
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Dry Lamp on this house's network")])
    made = (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(subject)
        .public_key(private.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - BACKDATED)
        .not_valid_after(now - BACKDATED + VALID)
        .add_extension(x509.SubjectAlternativeName([_general(name) for name in names]), critical=False)
        # A phone takes it into its list only as an authority; its path ends with itself.
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .sign(private, hashes.SHA256())
    )
    secret = private.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )
    write_private(key, secret)
    write_private(certificate, made.public_bytes(serialization.Encoding.PEM))
    return made


def write_private(path: Path, content: bytes) -> None:
    """Write a file that only its owner reads, whole or not at all."""
    fresh = path.with_suffix(f"{path.suffix}.new")
    with open(os.open(fresh, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as file:
        file.write(content)
    os.replace(fresh, path)


def secret_of(folder: Path, name: str = "share-secret") -> bytes:
    """What signs the cookies, made once.

    Raises
    ------
    InputProblem
        it cannot be read or written.
    """
    path = folder / name
    try:
        if not path.exists() or path.stat().st_size < 32:
            write_private(path, os.urandom(48).hex().encode())
        path.chmod(0o600)
        return path.read_bytes()
    except OSError as error:
        raise InputProblem("share", f"{path} must hold the secret of paired devices ({error.strerror})") from None
