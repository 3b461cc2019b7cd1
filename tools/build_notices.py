"""Writes THIRD-PARTY-NOTICES.txt: what ships with the application, each with its licence's text.

What the pages are built from is read off the lock file, the texts off the installed packages;
data and type that lie in the tree are told by NOTICE.  Run by ``make notices``.
"""

import json
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
FRONT = ROOT / "frontend"
TARGET = ROOT / "THIRD-PARTY-NOTICES.txt"
RULE = "=" * 78
HEAD = """Third-party notices

Jade Perch ships the following things by others, in its pages or beside its modules.
Python packages that it needs are installed beside it and bring their own licences.
"""


def bundled() -> dict[str, str]:
    """The packages the pages are built from, and their versions, by the lock file."""
    lock = json.loads((FRONT / "package-lock.json").read_text("utf-8"))["packages"]
    waiting, found = list(lock[""]["dependencies"]), {}
    while waiting:
        name = waiting.pop()
        if name not in found:
            one = lock[f"node_modules/{name}"]
            found[name] = one["version"]
            waiting += one.get("dependencies", {})
    return dict(sorted(found.items()))


def licence_of(name: str) -> tuple[str, str]:
    """The licence of an installed package by name, and its whole text."""
    folder = FRONT / "node_modules" / name
    about = json.loads((folder / "package.json").read_text("utf-8"))
    found = sorted(one for one in folder.iterdir() if one.name.lower().startswith("licen"))
    if not found:
        author = about.get("author", "")
        who = author if isinstance(author, str) else author.get("name", "")
        return about["license"], f"(no text of its own; by {who or name})"
    return about["license"], found[0].read_text("utf-8").strip()


def notices() -> str:
    """Everything, in one text; packages with the very same text stand together."""
    together: dict[tuple[str, str], list[str]] = {}
    for name, version in bundled().items():
        together.setdefault(licence_of(name), []).append(f"{name} {version}")
    parts = [HEAD, RULE, "Data and type", RULE, (ROOT / "NOTICE").read_text("utf-8").strip(), ""]
    for (licence, text), names in together.items():
        parts += [RULE, *names, f"({licence})", RULE, text, ""]
    return "\n".join(line.rstrip() for part in parts for line in part.split("\n")).strip() + "\n"


if __name__ == "__main__":
    TARGET.write_text(notices(), "utf-8")
    print(f"{TARGET.name}: {len(bundled())} packages")
    sys.exit(0)
