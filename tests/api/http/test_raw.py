"""Requests as no browser sends them: two hosts, two lengths, a request inside another (RFC 9112, 11.2)."""

import socket

import pytest

END = b"\r\n\r\n"
HOST = b"Host: 127.0.0.1\r\n"
HIDDEN = b"DELETE /api/builds/x HTTP/1.1\r\nHost: 127.0.0.1" + END
SMUGGLED = {
    "length and chunks": b"POST /api/builds HTTP/1.1\r\n"
    + HOST
    + b"Content-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n"
    + HIDDEN,
    "two lengths": b"POST /api/builds HTTP/1.1\r\n"
    + HOST
    + b"Content-Length: 0\r\nContent-Length: 60\r\n\r\n"
    + HIDDEN,
    "chunks by another name": b"POST /api/builds HTTP/1.1\r\n"
    + HOST
    + b"Transfer-Encoding: xchunked\r\nContent-Length: 4\r\n\r\n0\r\n\r\n"
    + HIDDEN,
    "a length with a sign": b"POST /api/builds HTTP/1.1\r\n" + HOST + b"Content-Length: +5\r\n\r\nabcde",
    "a space before the colon": b"GET /api/builds HTTP/1.1\r\nHost : 127.0.0.1" + END,
    "a line that goes on": b"GET /api/builds HTTP/1.1\r\nHost:\r\n 127.0.0.1" + END,
}
FOREIGN = {
    "two hosts": b"GET /api/builds HTTP/1.1\r\nHost: 127.0.0.1\r\nHost: evil.example" + END,
    "two hosts, the other way round": b"GET /api/builds HTTP/1.1\r\nHost: evil.example\r\nHost: 127.0.0.1" + END,
    "no host": b"GET /api/builds HTTP/1.1\r\nX: y" + END,
    "a whole address": b"GET http://127.0.0.1/api/builds HTTP/1.1\r\nHost: evil.example" + END,
    "a name and a password": b"GET /api/builds HTTP/1.1\r\nHost: 127.0.0.1@evil.example" + END,
    "a path in the host": b"GET /api/builds HTTP/1.1\r\nHost: 127.0.0.1/x" + END,
    "a port that is none": b"GET /api/builds HTTP/1.1\r\nHost: 127.0.0.1:x" + END,
    "HTTP/1.0 without a host": b"GET /api/builds HTTP/1.0" + END,
}


def said(address, request):
    """All that is answered until the connection ends, or nothing comes any more."""
    host, port = address.removeprefix("http://").split(":")
    with socket.create_connection((host, int(port)), timeout=1.0) as connection:
        connection.sendall(request)
        connection.shutdown(socket.SHUT_WR)
        answer = b""
        try:
            while piece := connection.recv(1 << 16):
                answer += piece
        except TimeoutError:
            pass
    return answer


def statuses(answer):
    return [int(part[:3]) for part in answer.split(b"HTTP/1.1 ")[1:]]


@pytest.mark.parametrize("how", SMUGGLED)
def test_a_request_that_can_be_read_two_ways_is_refused_and_ends_its_connection(address, how):
    found = statuses(said(address, SMUGGLED[how]))

    assert found in ([400], [403]), found


@pytest.mark.parametrize("how", FOREIGN)
def test_a_host_that_is_not_one_of_ours_gets_nothing(address, how):
    found = statuses(said(address, FOREIGN[how]))

    assert found in ([400], [403]), found
