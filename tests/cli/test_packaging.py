"""What the package says of itself holds."""

import ast
import re
import tomllib
from pathlib import Path

ROOT = Path(__file__).parents[2]


def locked(name):
    return dict(re.findall(r"^([\w.-]+)==(\S+)", (ROOT / name).read_text("utf-8"), re.MULTILINE))


def test_every_library_of_the_run_lock_has_hashes_and_stands_in_the_notice():
    text, notice = (ROOT / "requirements.lock").read_text("utf-8"), (ROOT / "NOTICE").read_text("utf-8").lower()
    entries = text.split("\n", 1)[1].split("\n")
    own = {"numpy", "msgspec"}
    for name in locked("requirements.lock"):
        assert name in notice or f"python-{name}" in notice or name in own, name
    pinned = [n for n, line in enumerate(entries) if "==" in line]
    assert all("--hash=sha256:" in entries[n + 1] for n in pinned)


def test_the_locks_hold_what_the_project_asks_for_and_share_nothing():
    project = tomllib.loads((ROOT / "pyproject.toml").read_text("utf-8"))["project"]
    run, dev = locked("requirements.lock"), locked("requirements-dev.lock")
    names = lambda wanted: {re.match(r"[\w-]+", each)[0].lower() for each in wanted}  # noqa: E731
    assert names(project["dependencies"]) <= set(run)
    assert names(project["optional-dependencies"]["dev"]) <= {*run, *dev}
    assert not set(run) & set(dev)
    assert not {"pytest", "mypy", "ruff"} & set(run)


def nodes(root):
    """Every node of a tree, as `ast.walk` gives them, in another order and in a third of its time."""
    left = [root]
    while left:
        node = left.pop()
        yield node
        for value in vars(node).values():
            if isinstance(value, ast.AST):
                left.append(value)
            elif isinstance(value, list):
                left += [each for each in value if isinstance(each, ast.AST)]


def branches(function):
    """How many ways lead through a function."""
    one = (ast.If, ast.For, ast.While, ast.ExceptHandler, ast.IfExp, ast.Assert)
    count = 1
    for node in nodes(function):
        count += isinstance(node, one)
        count += len(node.values) - 1 if isinstance(node, ast.BoolOp) else 0
        count += 1 + len(node.ifs) if isinstance(node, ast.comprehension) else 0
    return count


def test_the_house_keeps_its_measures():
    many = 0
    for path in sorted((ROOT / "yellow_hinge").rglob("*.py")):
        text = path.read_text("utf-8")
        assert text.count("\n") <= 400, path
        for node in nodes(ast.parse(text)):
            if isinstance(node, ast.FunctionDef):
                assert node.end_lineno - node.lineno < 45, (path, node.name)
                ways = branches(node)
                assert ways <= 20, (path, node.name)
                many += ways > 12
    assert many <= 60


def test_the_page_of_the_house_names_what_is_there():
    page = (ROOT / "docs" / "architecture.md").read_text("utf-8")
    for word in set(re.findall(r"`((?:core|app|io|ui)/[\w/.*]+)`", page)):
        assert list((ROOT / "yellow_hinge").glob(word)), word
