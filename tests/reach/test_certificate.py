"""A certificate made on the spot, looked at by OpenSSL's own verification and by a TLS handshake."""

import datetime
import socket
import ssl
import stat
import threading

import pytest
from cryptography import x509

from yielding_coil.reach import certificate_for
from yielding_coil.reach.certificate import LASTS


@pytest.fixture
def kept(tmp_path):
    return certificate_for(tmp_path / "tls", {"127.0.0.1", "localhost", "loft.local", "192.168.7.3"})


def shaken(kept, name, authority=None):
    """A handshake with a server on loopback that is asked for under a name."""
    server = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    server.load_cert_chain(kept.chain, kept.key)
    client = ssl.create_default_context(cafile=authority or kept.authority)
    with socket.create_server(("127.0.0.1", 0)) as listener:

        def answer():
            connection, _ = listener.accept()
            try:
                with server.wrap_socket(connection, server_side=True) as wrapped:
                    wrapped.recv(1)
            except OSError:
                connection.close()

        thread = threading.Thread(target=answer)
        thread.start()
        try:
            with (
                socket.create_connection(listener.getsockname()) as plain,
                client.wrap_socket(plain, server_hostname=name) as wrapped,
            ):
                return wrapped.version()
        finally:
            thread.join()


def test_it_is_trusted_under_the_names_it_was_made_for_and_no_other(kept):
    for name in ("127.0.0.1", "localhost", "loft.local", "192.168.7.3"):
        assert shaken(kept, name) == "TLSv1.3"
    for name in ("192.168.7.4", "evil.example"):
        with pytest.raises(ssl.SSLCertVerificationError):
            shaken(kept, name)


def test_its_authority_vouches_for_nothing_outside(kept, tmp_path):
    """Signed by the same authority for a foreign place: OpenSSL refuses it (RFC 5280, 4.2.1.10)."""
    other = certificate_for(tmp_path / "other", {"evil.example"})
    for name in ("authority.pem", "authority.key"):
        (tmp_path / "other" / name).write_bytes((tmp_path / "tls" / name).read_bytes())
    from yielding_coil.reach.certificate import _make

    _make(other, tmp_path / "other" / "authority.key", ["evil.example"], datetime.datetime.now(datetime.UTC))

    with pytest.raises(ssl.SSLCertVerificationError, match="permitted subtree"):
        shaken(other, "evil.example")


def test_it_stays_while_it_fits_and_is_made_anew_when_it_does_not(kept, tmp_path):
    before = {p.name: p.read_bytes() for p in (tmp_path / "tls").iterdir()}
    certificate_for(tmp_path / "tls", {"192.168.7.3"})
    same = {p.name: p.read_bytes() for p in (tmp_path / "tls").iterdir()}
    certificate_for(tmp_path / "tls", {"127.0.0.1", "192.168.7.9"})
    moved = {p.name: p.read_bytes() for p in (tmp_path / "tls").iterdir()}

    assert same == before
    # Another address: the authority that phones trust stays, what it vouches for is new.
    assert moved["authority.pem"] == before["authority.pem"]
    assert moved["server.pem"] != before["server.pem"]
    assert shaken(kept, "192.168.7.9") == "TLSv1.3"


def test_keys_are_nobody_elses_and_it_does_not_last_longer_than_browsers_take(kept):
    own = x509.load_pem_x509_certificate(kept.chain.read_bytes())

    for key in (kept.key, kept.key.with_name("authority.key")):
        assert stat.S_IMODE(key.stat().st_mode) == 0o600
    assert own.not_valid_after_utc - own.not_valid_before_utc <= datetime.timedelta(days=398)
    assert LASTS.days > 365
