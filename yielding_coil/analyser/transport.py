"""How bytes get to an analyser and back: over a plain TCP socket or a serial port, through PyVISA."""

import contextlib
import re
import select
import socket
import time
from typing import Any

import pyvisa
from pyvisa import constants
from pyvisa.resources import MessageBasedResource
from serial.tools import list_ports

from yielding_coil.core.errors import OutOfDomainError

# As names are written on local networks, too (RFC 1123, and underscores that some give).
_HOST = re.compile(r"[A-Za-z0-9_](?:[A-Za-z0-9_.-]{0,251}[A-Za-z0-9_])?")
# Of a serial port: what the system made in its folder of devices, and nothing above it.
_PORT = re.compile(r"/dev/(?!.*\.\.)[A-Za-z0-9][A-Za-z0-9_./:-]{0,100}")
_EXAMPLES = (
    "host:port, as in 192.0.2.7:5025 or bench-analyser.local:5025: letters, digits, dots, hyphens and underscores, "
    "then a port from 1 to 65535; or a serial port, as in /dev/ttyUSB0"
)


class GoneError(Exception):
    """Nothing is at the other end any more."""


class SilentError(Exception):
    """Nothing came in time."""


def is_serial(address: str) -> bool:
    """Whether an address is a serial port."""
    return address.strip().startswith("/")


def plain_address(address: str) -> str:
    """An address as it is kept and compared: host names in small letters, nothing around it.

    Raises:
        OutOfDomainError: neither host:port nor a serial port.
    """
    if is_serial(address):
        if not _PORT.fullmatch(address.strip()):
            raise OutOfDomainError("address", f"“{address}”", _EXAMPLES)
        return address.strip()
    host, port = host_and_port(address)
    return f"{host.lower()}:{port}"


def host_and_port(address: str) -> tuple[str, int]:
    """Host and port of an address as typed.

    Raises:
        OutOfDomainError: no port, or no such port.
    """
    host, _, port = address.strip().rpartition(":")
    fits = _HOST.fullmatch(host) and port.isascii() and port.isdigit() and 0 < int(port[:6]) < 65536
    if not fits:
        raise OutOfDomainError("address", f"“{address}”", _EXAMPLES)
    return host, int(port)


def serial_ports() -> list[str]:
    """Serial ports that this computer has."""
    return sorted(port.device for port in list_ports.comports())


class Transport:
    """An open way to an analyser. One thread at a time."""

    def __init__(self, address: str, timeout_s: float, baud: int) -> None:
        """Open it.

        Raises:
            OutOfDomainError: the address is none.
            GoneError: nothing answers there.
        """
        self.address = plain_address(address)
        self.serial = is_serial(self.address)
        host, _, port = self.address.rpartition(":")
        name = f"ASRL{self.address}::INSTR" if self.serial else f"TCPIP::{host}::{port}::SOCKET"
        try:
            opened = pyvisa.ResourceManager("@py").open_resource(
                name,
                read_termination="\n",
                write_termination="\n",
                timeout=timeout_s * 1e3,
                open_timeout=int(timeout_s * 1e3),
            )
        except Exception as why:  # the backend raises plain ones where it cannot connect
            raise GoneError from why
        assert isinstance(opened, MessageBasedResource)
        self._resource = opened
        # What the backend reads from: looked at to tell a closed connection from a slow instrument.
        self._inner: Any = opened.visalib.sessions[opened.session].interface  # type: ignore[attr-defined]
        if self.serial:
            opened.set_visa_attribute(constants.ResourceAttribute(constants.VI_ATTR_ASRL_BAUD), baud)
            # What an instrument said before it was asked is no answer.
            self._inner.reset_input_buffer()
        else:
            self._inner.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)

    def close(self) -> None:
        """Let go of it."""
        with contextlib.suppress(OSError, pyvisa.Error):
            self._resource.close()

    def tell(self, command: str) -> None:
        """Send a line.

        Raises:
            GoneError: it cannot be reached.
        """
        try:
            self._resource.write(command)
        except (OSError, pyvisa.Error) as why:
            raise GoneError from why

    def wait(self, until: float) -> None:
        """Wait for the first bytes of an answer; the backend would take a closed connection for a slow one.

        Raises:
            SilentError, GoneError.
        """
        try:
            ready, _, _ = select.select([self._inner], [], [], max(0.0, until - time.monotonic()))
            if not ready:
                raise SilentError
            if not self.serial and not self._inner.recv(1, socket.MSG_PEEK):
                raise GoneError
        except OSError as why:
            raise GoneError from why

    def bytes(self, count: int, *, to_the_end_of_a_line: bool = False) -> bytes:
        """So many bytes, or up to the end of a line.

        Raises:
            SilentError, GoneError.
        """
        try:
            return self._resource.read_bytes(count, chunk_size=count, break_on_termchar=to_the_end_of_a_line)
        except pyvisa.VisaIOError as why:
            if why.error_code == pyvisa.constants.StatusCode.error_timeout:
                raise SilentError from why
            raise GoneError from why
        except OSError as why:
            raise GoneError from why
