"""A certificate made on the spot: an authority of one's own, and what it vouches for.

The authority may vouch for addresses of home networks and for this computer's name only (RFC 5280, 4.2.1.10):
whoever trusts it on a phone does not thereby trust it for any other place.
"""

import datetime
import ipaddress
import os
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

AUTHORITY_LASTS = datetime.timedelta(days=3650)
# Browsers take no longer ones (common practice: 398 days).
LASTS = datetime.timedelta(days=390)
RENEW_BEFORE = datetime.timedelta(days=30)
# Blocks of home and campus networks (RFC 1918, RFC 6598) and loopback.
_HOME = ("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "100.64.0.0/10", "127.0.0.0/8")


@dataclass(frozen=True, slots=True)
class Certificate:
    """Files of a certificate with its key, and of the authority to be trusted."""

    chain: Path
    key: Path
    authority: Path


def certificate_for(folder: Path, names: Iterable[str]) -> Certificate:
    """The certificate kept in a folder; made anew where it does not name all of these, or soon ends.

    Args:
        names: addresses and host names.
    """
    folder.mkdir(mode=0o700, exist_ok=True)
    kept = Certificate(folder / "server.pem", folder / "server.key", folder / "authority.pem")
    authority_key = folder / "authority.key"
    wanted = sorted(set(names))
    now = datetime.datetime.now(datetime.UTC)
    own = sorted({name for name in wanted if not _is_address(name)})
    outside = sorted({name for name in wanted if _is_address(name) and not _is_home(name)})
    if not (kept.authority.exists() and authority_key.exists() and _vouches(kept.authority, own, outside, now)):
        _make_authority(kept.authority, authority_key, own, outside, now)
        kept.chain.unlink(missing_ok=True)
    if not (kept.chain.exists() and kept.key.exists() and _serves(kept.chain, wanted, now)):
        _make(kept, authority_key, wanted, now)
    return kept


def _is_address(name: str) -> bool:
    try:
        ipaddress.ip_address(name)
    except ValueError:
        return False
    return True


def _is_home(address: str) -> bool:
    own = ipaddress.ip_address(address)
    return any(own in block for block in map(ipaddress.ip_network, _HOME))


def _read(path: Path) -> x509.Certificate:
    return x509.load_pem_x509_certificate(path.read_bytes())


def _vouches(path: Path, own: list[str], outside: list[str], now: datetime.datetime) -> bool:
    found = _read(path)
    permitted = found.extensions.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees or []
    known = {str(each.value) for each in permitted}
    return found.not_valid_after_utc > now + LASTS and {*own, *(f"{a}/32" for a in outside)} <= known


def _serves(path: Path, wanted: list[str], now: datetime.datetime) -> bool:
    found = _read(path)
    names = found.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    known = {str(each.value) for each in names}
    return found.not_valid_after_utc > now + RENEW_BEFORE and set(wanted) <= known


def _name(what: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, what)])


def _begun(
    subject: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePrivateKey, now: datetime.datetime
) -> x509.CertificateBuilder:
    builder = x509.CertificateBuilder(subject_name=subject, issuer_name=issuer, public_key=key.public_key())
    # A phone's clock may be behind.
    return builder.serial_number(x509.random_serial_number()).not_valid_before(now - datetime.timedelta(days=1))


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs,
        key_cert_sign=signs,
        crl_sign=signs,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        encipher_only=False,
        decipher_only=False,
    )


def _make_authority(path: Path, key_path: Path, own: list[str], outside: list[str], now: datetime.datetime) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    subject = _name("Yielding Coil on this computer")
    permitted: list[x509.GeneralName] = [x509.IPAddress(ipaddress.ip_network(block)) for block in _HOME]
    permitted += [x509.IPAddress(ipaddress.ip_network(f"{address}/32")) for address in outside]
    permitted += [x509.DNSName(name) for name in own]
    builder = _begun(subject, subject, key, now).not_valid_after(now + AUTHORITY_LASTS)
    builder = builder.add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
    builder = builder.add_extension(_usage(signs=True), critical=True)
    builder = builder.add_extension(x509.NameConstraints(permitted, None), critical=True)
    own_id = x509.SubjectKeyIdentifier.from_public_key(key.public_key())
    signed = builder.add_extension(own_id, critical=False).sign(key, hashes.SHA256())
    _write(key_path, _key_text(key))
    _write(path, signed.public_bytes(serialization.Encoding.PEM))


def _make(kept: Certificate, authority_key: Path, wanted: list[str], now: datetime.datetime) -> None:
    authority = _read(kept.authority)
    signing = serialization.load_pem_private_key(authority_key.read_bytes(), None)
    assert isinstance(signing, ec.EllipticCurvePrivateKey)
    key = ec.generate_private_key(ec.SECP256R1())
    said: list[x509.GeneralName] = [
        x509.IPAddress(ipaddress.ip_address(name)) if _is_address(name) else x509.DNSName(name) for name in wanted
    ]
    builder = _begun(_name("Yielding Coil"), authority.subject, key, now).not_valid_after(now + LASTS)
    builder = builder.add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
    builder = builder.add_extension(_usage(signs=False), critical=True)
    builder = builder.add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
    builder = builder.add_extension(x509.SubjectAlternativeName(said), critical=False)
    issuer = x509.AuthorityKeyIdentifier.from_issuer_public_key(signing.public_key())
    signed = builder.add_extension(issuer, critical=False).sign(signing, hashes.SHA256())
    _write(kept.key, _key_text(key))
    _write(kept.chain, b"".join(c.public_bytes(serialization.Encoding.PEM) for c in (signed, authority)))


def _key_text(key: ec.EllipticCurvePrivateKey) -> bytes:
    pem, form = serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8
    return key.private_bytes(pem, form, serialization.NoEncryption())


def _write(path: Path, content: bytes) -> None:
    """Whole or not at all, and for nobody else's eyes."""
    part = path.with_name(f"{path.name}.part")
    with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as out:
        out.write(content)
        out.flush()
        os.fsync(out.fileno())
    part.replace(path)
