"""Every route of the API called with every hostile value in every place, by the API's own description.

.venv/bin/python tools/hostile.py          # writes docs/hostile.md; takes some minutes
"""

from __future__ import annotations

import copy
import json
import resource
import tempfile
import time
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Final
from urllib.parse import quote

from fastapi.testclient import TestClient

from dapwick.api.app import make_app
from dapwick.records.store import SalonStore
from dapwick.service.salon.demo import fill_with_demo

OUT = Path(__file__).parents[1] / "docs" / "hostile.md"
HERE: Final = "http://127.0.0.1"
TEXTS: Final = (
    "", " ", "\0", "a\0b", "\ud800", "a\udfff", "\uffff", "\x1b[2J", "\r\nX-Injected: 1", "a\nb", "\u202eevil",
    "\ufeff", "x" * 10_000, "x" * 200_000, "💈" * 400, "../../../etc/passwd", "..\\..\\windows", "/etc/passwd", "%00",
    "%2e%2e%2f", "' OR 1=1 --", '"; DROP TABLE dog; --', "<script>alert(1)</script>", "{{7*7}}", "${jndi:x}", "null",
    "undefined", "NaN", "-1", "0", "1e400", "true", "[]", "{}", "9999-12-31", "0000-00-00", "2026-02-30", "23:59",
    "99:99", "12:00:00",
)  # fmt: skip
NUMBERS: Final = (0, -1, 1, 2**31, 2**63, 2**64, 10**30, -(2**63) - 1, 1e308, -1e308, 5e-324, 0.1)
OTHERS: Final = (None, True, False, [], {}, [[]], [None], {"a": None}, [1e308] * 50)
RAW: Final = ("NaN", "Infinity", "-Infinity", "1e999", "[" * 2000 + "]" * 2000, "{", '"\\ud800"', "\x00")
"""Bodies and values that only a raw text can say."""
VALUES: Final = (*TEXTS, *NUMBERS, *OTHERS)
MOST_SECONDS: Final = 2.0
LONGEST_ADDRESS: Final = 6_000
"""What an address, a header or a form field is cut to; longer ones the server does not even read."""
PLACEHOLDER: Final = "@@here@@"


@dataclass(frozen=True)
class Call:
    """One request: body as text, so that what no encoder writes can be said too."""

    method: str
    path: str
    where: str
    query: str = ""
    body: str | None = None
    form: Mapping[str, str] | None = None
    if_match: str | None = None


@dataclass(frozen=True)
class Bad:
    call: Call
    why: str


def calls(description: Mapping[str, Any], values: Sequence[Any] = VALUES) -> Iterator[Call]:
    """Every operation, with one place after another taken by each of the values, the others being good."""
    for path, operations in description["paths"].items():
        for method, operation in operations.items():
            yield from _of(description, path, method.upper(), operation, values)


def _of(
    description: Mapping[str, Any],
    path: str,
    method: str,
    operation: Mapping[str, Any],
    values: Sequence[Any],
) -> Iterator[Call]:
    parameters = operation.get("parameters", [])
    in_path = {p["name"]: _usual(p["name"]) for p in parameters if p["in"] == "path"}
    good = _filled(path, in_path)
    content = operation.get("requestBody", {}).get("content", {})
    schema = next(iter(content.values()))["schema"] if content else None
    form = "multipart/form-data" in content
    sample = _sample(description, schema) if schema and not form else None
    for name in in_path:
        for value in values:
            yield Call(method, _filled(path, in_path | {name: quote(_text(value), safe="")}), f"path {name}",
                       body=_json(sample))  # fmt: skip
    for parameter in parameters:
        if parameter["in"] == "query":
            for value in values:
                query = f"{parameter['name']}={quote(_text(value), safe='')}"
                yield Call(method, good, f"query {parameter['name']}", query)
        if parameter["in"] == "header":
            for value in values:
                yield Call(method, good, "If-Match", body=_json(sample), if_match=_text(value))
    if form and schema:
        for name in _form_fields(description, schema):
            for value in values:
                yield Call(method, good, f"form {name}", form={name: _text(value)})
    elif schema is not None:
        for raw in RAW:
            yield Call(method, good, "whole body", body=raw)
        for value in values:
            yield Call(method, good, "whole body", body=_json(value))
        for spot in _spots(sample):
            for value in values:
                yield Call(method, good, f"body {spot}", body=_json(_with(sample, spot, value)))
            for raw in RAW[:4]:
                text = _json(_with(sample, spot, PLACEHOLDER)) or ""
                yield Call(method, good, f"body {spot}", body=text.replace(f'"{PLACEHOLDER}"', raw))


def _usual(name: str) -> str:
    return {"dog_id": "1", "photo_id": "1", "family": "round", "step": "look_over", "view": "front"}.get(
        name, "1"
    )


def _filled(path: str, values: Mapping[str, str]) -> str:
    for name, value in values.items():
        path = path.replace(f"{{{name}:path}}", value).replace(f"{{{name}}}", value)
    return path


def _text(value: Any) -> str:
    text = value if isinstance(value, str) else (_json(value) or "")
    return text[:LONGEST_ADDRESS].encode("utf-8", "replace").decode()


def _json(value: Any) -> str | None:
    return None if value is None else json.dumps(value)


def _schema(description: Mapping[str, Any], schema: Mapping[str, Any]) -> Mapping[str, Any]:
    while "$ref" in schema:
        schema = description["components"]["schemas"][schema["$ref"].rsplit("/", 1)[1]]
    return schema


def _sample(description: Mapping[str, Any], given: Mapping[str, Any], depth: int = 0) -> Any:
    """A body that may be good: every field filled."""
    schema = _schema(description, given)
    if "enum" in schema:
        return schema["enum"][0]
    if "const" in schema:
        return schema["const"]
    for key in ("anyOf", "oneOf"):
        if key in schema:
            return _sample(description, schema[key][0], depth + 1)
    kind = schema.get("type")
    if kind == "object" or "properties" in schema:
        fields = schema.get("properties", {})
        found = {name: _sample(description, one, depth + 1) for name, one in fields.items()}
        more = schema.get("additionalProperties")
        return found | (
            {"stop": _sample(description, more, depth + 1)} if isinstance(more, dict) and depth < 6 else {}
        )
    if kind == "array":
        if "prefixItems" in schema:
            return [_sample(description, one, depth + 1) for one in schema["prefixItems"]]
        return [_sample(description, schema["items"], depth + 1)] if "items" in schema and depth < 6 else []
    return {"string": "stop", "integer": 1, "number": 1.0, "boolean": False}.get(kind or "", "a")


def _spots(sample: Any, at: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Where a body can be changed: each field, and each first item of a list."""
    if isinstance(sample, dict):
        for key, value in sample.items():
            yield (*at, key)
            yield from _spots(value, (*at, key))
    elif isinstance(sample, list) and sample:
        yield (*at, 0)
        yield from _spots(sample[0], (*at, 0))


def _with(sample: Any, spot: tuple[Any, ...], value: Any) -> Any:
    found = copy.deepcopy(sample)
    inside = found
    for key in spot[:-1]:
        inside = inside[key]
    inside[spot[-1]] = value
    return found


def _form_fields(description: Mapping[str, Any], schema: Mapping[str, Any]) -> list[str]:
    return list(_schema(description, schema).get("properties", {}))


def sent(api: TestClient, call: Call) -> tuple[int, str, float]:
    begun = time.monotonic()
    url = call.path + (f"?{call.query}" if call.query else "")
    headers = {"Content-Type": "application/json"} if call.body is not None else {}
    if call.if_match is not None:
        headers["If-Match"] = (
            call.if_match.encode("ascii", "replace").decode().translate({10: 32, 13: 32, 0: 32})
        )
    if call.form is not None:
        data = {k: v for k, v in call.form.items() if k != "file"}
        name = call.form.get("file", "a.jpg")
        answer = api.request(
            call.method, url, data=data, files={"file": (name or "a", b"no photo", "image/jpeg")}
        )
    else:
        body = call.body.encode("utf-8", "surrogatepass") if call.body is not None else None
        answer = api.request(call.method, url, content=body, headers=headers)
    return answer.status_code, answer.text[:2000], time.monotonic() - begun


def faults(api: TestClient, call: Call, folder: str, most_seconds: float = MOST_SECONDS) -> Iterator[Bad]:
    status, text, seconds = sent(api, call)
    if status >= 500 and status not in (503, 507):
        yield Bad(call, f"answered {status}")
    if "Traceback" in text or ".py" in text or (status >= 400 and folder in text):
        yield Bad(call, "tells of its insides")
    if seconds > most_seconds:
        yield Bad(call, f"took {seconds:.1f} s")


def hostile_client(store: SalonStore) -> TestClient:
    return TestClient(make_app(store), base_url=HERE, raise_server_exceptions=False)


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder) / "salon")
        fill_with_demo(store, ("fogbell", "bobbin"))
        begun_kb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        bad: list[Bad] = []
        count, begun = 0, time.monotonic()
        with hostile_client(store) as api:
            description = make_app(None).openapi()
            for call in calls(description):
                count += 1
                bad += faults(api, call, folder)
        grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - begun_kb) / 1024
        operations = sum(len(of) for of in description["paths"].values())
        lines = [
            "# Every route with every hostile value",
            "",
            f"Written by `tools/hostile.py`: {operations} operations, {len(VALUES)} values (and {len(RAW)} that only",
            "a raw body can say), each in every path, query, header, form and body place, the others being good.",
            "",
            f"{count} calls in {time.monotonic() - begun:.0f} s. Answers that are a fault of the server (5xx but",
            f"an honest 503 or 507), tell of paths or code, or take over {MOST_SECONDS:g} s: **{len(bad)}**.",
            f"Memory grew by {grown:.0f} MB at most.",
            "",
            *(f"- {one.call.method} {one.call.path[:80]} ({one.call.where}): {one.why}" for one in bad[:60]),
            "",
        ]
        OUT.write_text("\n".join(lines), "utf-8")
        print(OUT.read_text("utf-8"))


if __name__ == "__main__":
    main()
