"""`python -m dapwick.cli`."""

from dapwick.cli import app

app()
