"""What callipers send, and the simulated one in its three guises."""

from __future__ import annotations

import re
import socket
import subprocess
import sys
import threading

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.errors import BadInput
from dapwick.demo.dogs import truth
from dapwick.devices.calliper import (
    USUAL_MEASURES,
    SimulatedCalliper,
    parse_reading,
    serve_lines,
    wedge_line,
)


@given(st.floats(0.01, 999.99))
def test_a_typed_reading_comes_back(mm: float) -> None:
    assert parse_reading(wedge_line(mm)) == pytest.approx(mm, abs=0.0051)


@pytest.mark.parametrize(
    ("line", "mm"),
    [
        ("+071.50\r\n", 71.5),
        ("71,5 mm", 71.5),
        ("2.815 in", 71.501),
        ('1"', 25.4),
        ("  8 ", 8.0),
        ("0.00", 0.0),
    ],
)
def test_the_usual_ways_of_writing_are_read(line: str, mm: float) -> None:
    assert parse_reading(line) == pytest.approx(mm, abs=1e-3)


@pytest.mark.parametrize("line", ["", "\n", "mm", ".", "Err 1", "-3.0", "71.5 cm", "1e3", "12.5 12.5"])
def test_anything_else_is_refused_with_what_was_got(line: str) -> None:
    with pytest.raises(BadInput, match="digits"):
        parse_reading(line)


def test_readings_are_true_but_for_the_hand() -> None:
    marks = truth("bobbin")["marks_mm"]
    errors = []
    for seed in range(200):
        for (_, mm), (a, b) in zip(SimulatedCalliper(marks, seed).readings(), USUAL_MEASURES, strict=True):
            true = sum((p - q) ** 2 for p, q in zip(marks[a], marks[b], strict=True)) ** 0.5
            errors.append(mm - true)
    assert abs(sum(errors) / len(errors)) < 0.1
    assert 0.4 < (sum(e * e for e in errors) / len(errors)) ** 0.5 < 0.8


def test_an_unknown_mark_is_told() -> None:
    with pytest.raises(BadInput, match="24 mark ids"):
        list(SimulatedCalliper({}, 0).readings([("elbow", "nose_tip")]))


def test_the_network_line_sends_every_reading() -> None:
    calliper = SimulatedCalliper(truth("fogbell")["marks_mm"], 3)
    with serve_lines(calliper, "127.0.0.1", 0) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        with socket.create_connection(server.server_address[:2], timeout=5) as line:
            sent = line.makefile("r").read()
        server.shutdown()
    assert [parse_reading(part) for part in sent.splitlines()] == [mm for _, mm in calliper.readings()]


def test_the_command_types_digits_and_enter() -> None:
    done = subprocess.run(
        [sys.executable, "-m", "dapwick.cli", "devices", "calliper", "--dog", "fogbell", "--seed", "5"],
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    assert re.fullmatch(r"(\d+\.\d\d\n)+", done.stdout)
    assert len(done.stdout.splitlines()) == len(USUAL_MEASURES)
    assert "outer eye corner" in done.stderr


def test_the_command_knows_only_the_demo_dogs() -> None:
    done = subprocess.run(
        [sys.executable, "-m", "dapwick.cli", "devices", "calliper", "--dog", "nobody"],
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )
    assert done.returncode == 2
    assert "fogbell" in done.stderr
