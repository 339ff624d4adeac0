"""The one file a salon installs: in an environment of its own, without Node and without the repository, it serves."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import sysconfig
import time
from collections.abc import Iterator
from pathlib import Path
from urllib.request import urlopen

import pytest

from make_wheel import ROOT, make_wheel

pytestmark = pytest.mark.skipif(not (ROOT / "web" / "dist").is_dir(), reason="the screens are not built")
PATIENCE_S = 60.0


@pytest.fixture(scope="module")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The folder of an environment that has the wheel. What it depends on comes from here, to save minutes; the
    product itself does not: nothing of the repository is on its path."""
    folder = tmp_path_factory.mktemp("installed")
    wheel = make_wheel(folder / "made")
    subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(folder / "own")], check=True)
    site = next((folder / "own").glob("lib/python*/site-packages"))
    pip = [
        sys.executable,
        "-m",
        "pip",
        "install",
        "--quiet",
        "--no-deps",
        "--no-index",
        "--target",
        str(site),
    ]
    subprocess.run([*pip, str(wheel)], check=True)
    (site / "others.pth").write_text(sysconfig.get_path("purelib") + "\n", "utf-8")
    return folder / "own"


def told(installed: Path, code: str) -> str:
    python = installed / "bin" / "python"
    asked = [str(python), "-c", code]
    return subprocess.run(
        asked, check=True, capture_output=True, text=True, cwd=installed, env=bare()
    ).stdout.strip()


def bare() -> dict[str, str]:
    return {key: value for key, value in os.environ.items() if key != "PYTHONPATH"}


@pytest.fixture
def address(installed: Path, tmp_path: Path) -> Iterator[str]:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [
        str(installed / "bin" / "python"),
        "-m",
        "dapwick.cli",
        "serve",
        "--salon",
        str(tmp_path / "salon"),
    ]
    serving = subprocess.Popen([*command, "--port", str(port)], cwd=tmp_path, env=bare())
    yield f"http://127.0.0.1:{port}"
    serving.terminate()
    serving.wait(20)


def answer(address: str) -> tuple[int, str]:
    last = time.monotonic() + PATIENCE_S
    while True:
        try:
            with urlopen(address, timeout=5) as reply:
                return reply.status, reply.read().decode()
        except OSError:
            assert time.monotonic() < last, f"{address} never answered"
            time.sleep(0.2)


def test_it_carries_its_screens_models_and_demo(installed: Path) -> None:
    home = Path(told(installed, "import dapwick; print(dapwick.__file__)")).parent
    assert home.is_relative_to(installed)
    for file in (
        "screens/index.html",
        "vision/guess.onnx",
        "vision/u2netp.onnx",
        "demo/photos/fogbell-dry-front.jpg",
    ):
        assert (home / file).is_file(), file
    assert list((home / "screens" / "assets").glob("*.js"))
    assert list((home / "records" / "migrations" / "versions").glob("0012*.py"))


def test_it_reads_its_own_weights(installed: Path) -> None:
    found = Path(told(installed, "from dapwick.vision.salient import weights; print(weights())"))
    assert found.is_relative_to(installed)


def test_it_serves_a_salon(address: str) -> None:
    status, page = answer(address + "/")
    assert (status, '<div id="root">' in page) == (200, True)
    script = page.split('src="')[1].split('"')[0]
    assert answer(address + script)[0] == 200
    assert '"started":false' in answer(address + "/api/salon")[1].replace(" ", "")
