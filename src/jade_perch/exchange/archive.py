"""Everything as one zip: a manifest, one file of JSON lines a kind, the notes as CSV, pictures.

Nothing in a zip is ever unpacked onto the disk: members are known by their names, and read.
"""

import hashlib
import io
import json
import re
import struct
import zipfile
import zlib
from collections import deque
from collections.abc import Callable, Iterable, Iterator, Mapping
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import contextmanager
from itertools import islice
from pathlib import Path
from typing import IO, Any

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.context import UsualChoice
from jade_perch.core.evening.journal import Picture
from jade_perch.core.journal.archive import CHOICE, KINDS, KeptKind
from jade_perch.exchange.pictures import MOST_PICTURE_BYTES, read_kept

MARK, VERSION = "jade-perch-everything", 1
MANIFEST, NOTES_CSV = "manifest.json", "observations.csv"
FILES = {kind: f"{kind}.jsonl" for kind in (*KINDS, CHOICE)}
PICTURE = re.compile(r"pictures/([0-9a-f]{40})\.(jpg|png)")
ENDINGS = {"image/jpeg": "jpg", "image/png": "png"}
DATE = (2027, 1, 1, 0, 0, 0)  # of every member, so that the same things are the same file
BATCH_LINES, MOST_WAITING = 400, 4  # about a quarter of a megabyte, so many of them at most
MOST_MEMBERS = 60_000
MOST_DIRECTORY_BYTES = 200 * MOST_MEMBERS  # of the list of members; a name here has 60 letters
END_MARK, LONGEST_END = b"PK\x05\x06", 65_557  # of the last record, with the longest remark
MOST_ARCHIVE_BYTES = 2_000_000_000
MOST_UNPACKED_BYTES = 4_000_000_000
MOST_RATIO = 300  # of a member's size to its packed one; what people write packs 3 to 30 times
SMALL_BYTES = 1_000_000  # below it nobody minds the ratio
MOST_LINE_BYTES = 2_000_000
MOST_MANIFEST_BYTES = 100_000
DAMAGE = (
    zipfile.BadZipFile,
    zlib.error,
    EOFError,
    OSError,
    NotImplementedError,
    RuntimeError,
)
EXPORT_AGAIN = "Export it again where it was made."


class Writer:
    """A zip being written, member by member."""

    def __init__(self, archive: zipfile.ZipFile) -> None:
        self._archive, self._counts = archive, dict.fromkeys(FILES, 0)

    def lines(self, kind: str, texts: Iterable[str]) -> None:
        """Write one kind: each thing a line of JSON."""
        with self._member(FILES[kind]) as write:
            for together in _batches(texts):
                write("".join(f"{text}\n" for text in together).encode())
                self._counts[kind] += len(together)

    def notes(self, texts: Iterable[str]) -> None:
        """Write the notes as CSV for people; it is not read back."""
        with self._member(NOTES_CSV) as write:
            for some in texts:  # some lines each
                write(some.encode())

    def picture(self, picture: Picture) -> None:
        """Write one picture; it is packed already."""
        name = f"pictures/{picture.name}.{ENDINGS[picture.media_type]}"
        self._archive.writestr(zipfile.ZipInfo(name, DATE), picture.content)

    def manifest(self) -> None:
        """Write what is in it, last."""
        told = {"format": MARK, "version": VERSION, "counts": self._counts}
        info = zipfile.ZipInfo(MANIFEST, DATE)
        self._archive.writestr(info, json.dumps(told, indent=1) + "\n")

    @contextmanager
    def _member(self, name: str) -> Iterator[Callable[[bytes], None]]:
        """Give what writes into a member; packing goes on beside whoever makes the next lines."""
        info = zipfile.ZipInfo(name, DATE)
        info.compress_type = zipfile.ZIP_DEFLATED
        waiting: deque[Future[int]] = deque()
        with (
            self._archive.open(info, "w", force_zip64=True) as out,
            ThreadPoolExecutor(1) as packer,
        ):

            def write(data: bytes) -> None:
                if len(waiting) >= MOST_WAITING:
                    waiting.popleft().result()
                waiting.append(packer.submit(out.write, data))

            yield write
            while waiting:
                waiting.popleft().result()


def _batches(texts: Iterable[str]) -> Iterator[list[str]]:
    """Yield lines some at a time: one by one they pack slowly."""
    left = iter(texts)
    while together := list(islice(left, BATCH_LINES)):
        yield together


@contextmanager
def write_archive(path: Path) -> Iterator[Writer]:
    """Write a zip to a file; whoever is given the writer ends with its manifest."""
    with zipfile.ZipFile(path, "w", compresslevel=1) as archive:
        yield Writer(archive)


class Reader:
    """A zip whose members are all known and none too large; what is in them is still unread."""

    def __init__(self, archive: zipfile.ZipFile) -> None:
        self._archive = archive
        _check_members(archive)
        self.counts = _counts(self._read_small(MANIFEST))

    def lines(self, kind: str) -> Iterator[tuple[int, dict[str, Any]]]:
        """Yield each line of a kind by its number from 1.

        Raises ``OutOfRange`` for one that is no JSON object, and where there are not as many as the
        manifest says.
        """
        count = 0
        name = FILES[kind]
        if name in self._archive.namelist():
            with self._open(name) as member:
                while text := member.readline(MOST_LINE_BYTES):
                    count += 1
                    yield count, _object(name, count, text)
        if count != self.counts.get(kind, 0):
            allowed = f"{self.counts.get(kind, 0)} lines, as the manifest says"
            raise OutOfRange(name, f"{count} lines", allowed, EXPORT_AGAIN)

    def pictures(self) -> Iterator[Picture]:
        """Yield each picture; raises ``OutOfRange`` for one that is not what its name says."""
        for info in self._archive.infolist():
            named = PICTURE.fullmatch(info.filename)
            if named is None:
                continue
            with self._open(info.filename) as member:
                content = member.read()
            if hashlib.sha256(content).hexdigest()[:40] != named[1]:
                cure = "It was changed after it was exported: leave it out, or export again."
                raise OutOfRange(info.filename, "another content", "what its name says", cure)
            yield read_kept(content)

    def _read_small(self, name: str) -> bytes:
        if name not in self._archive.namelist():
            cure = "Choose a zip that was exported here."
            raise OutOfRange("file", f"a zip without {name}", "an export of everything", cure)
        if self._archive.getinfo(name).file_size > MOST_MANIFEST_BYTES:
            raise OutOfRange(name, "too large", f"up to {MOST_MANIFEST_BYTES} bytes", EXPORT_AGAIN)
        with self._open(name) as member:
            return member.read()

    @contextmanager
    def _open(self, name: str) -> Iterator[IO[bytes]]:
        """Open a member; damage found while reading is a refusal too."""
        try:
            with self._archive.open(name) as member:
                yield member
        except DAMAGE as error:
            raise OutOfRange(name, str(error), "an undamaged file", EXPORT_AGAIN) from error


@contextmanager
def read_archive(path: Path) -> Iterator[Reader]:
    """Open a zip to be read; raises ``OutOfRange`` for one that is none, broken or hostile."""
    _check_directory(path)
    try:
        archive = zipfile.ZipFile(path)
    except (zipfile.BadZipFile, OSError, ValueError) as error:
        cure = "Choose a zip that was exported here; a half-written one cannot be read."
        raise OutOfRange("file", str(error), "a whole zip file", cure) from error
    with archive:
        yield Reader(archive)


def _check_directory(path: Path) -> None:
    """Raise ``OutOfRange`` for a list of members so long that reading it alone would fill the room.

    Its length stands in the last record of a zip; one that is none is refused when it is opened.
    """
    with path.open("rb") as file:
        size = file.seek(0, io.SEEK_END)
        file.seek(max(0, size - LONGEST_END))
        end = file.read()
    at = end.rfind(END_MARK)
    if at >= 0 and len(end) >= at + 16:
        (long,) = struct.unpack_from("<I", end, at + 12)
        if long > MOST_DIRECTORY_BYTES:
            _refuse("file", f"a list of {long} bytes", f"up to {MOST_MEMBERS} members")


def _check_members(archive: zipfile.ZipFile) -> None:
    """Raise ``OutOfRange`` for members that are unknown, stand twice, or are too much."""
    members = archive.infolist()
    if len(members) > MOST_MEMBERS:
        _refuse("file", f"{len(members)} members", f"up to {MOST_MEMBERS} members")
    known = {MANIFEST, NOTES_CSV, *FILES.values()}
    met: set[str] = set()
    for info in members:
        name = info.filename
        if name not in known and PICTURE.fullmatch(name) is None:
            _refuse("file", name, "only members that an export has")
        if name in met:
            _refuse("file", f"{name} twice", "each member once")
        met.add(name)
        if info.flag_bits & 0x1:
            _refuse(name, "encrypted", "members without a password")
        _check_size(info)
    total = sum(info.file_size for info in members)
    if total > MOST_UNPACKED_BYTES:
        _refuse("file", f"{total} bytes unpacked", f"up to {MOST_UNPACKED_BYTES} bytes")


def _check_size(info: zipfile.ZipInfo) -> None:
    is_picture = PICTURE.fullmatch(info.filename) is not None
    if is_picture and info.file_size > MOST_PICTURE_BYTES:
        _refuse(info.filename, f"{info.file_size} bytes", f"up to {MOST_PICTURE_BYTES} bytes")
    ratio = info.file_size / max(info.compress_size, 1)
    if info.file_size > SMALL_BYTES and ratio > MOST_RATIO:
        _refuse(info.filename, f"packed {ratio:.0f} times", f"at most {MOST_RATIO} times")


def _refuse(field: str, value: str, allowed: str) -> None:
    raise OutOfRange(field, value, allowed, "Choose a zip that was exported here.")


def _counts(text: bytes) -> Mapping[str, int]:
    try:
        told = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise OutOfRange(MANIFEST, str(error), "a JSON document", EXPORT_AGAIN) from error
    is_ours = isinstance(told, dict) and told.get("format") == MARK
    version = told.get("version") if is_ours else None
    if not isinstance(version, int):
        _refuse("format", str(told)[:80], f"{MARK} version {VERSION}")
    assert isinstance(version, int)
    if version > VERSION:
        cure = "It was made by a newer version of Jade Perch: update this one first."
        raise OutOfRange("version", version, f"up to {VERSION}", cure)
    counts = told.get("counts")
    if not isinstance(counts, dict) or not all(
        isinstance(n, int) and kind in FILES for kind, n in counts.items()
    ):
        raise OutOfRange("counts", str(counts)[:80], "a number a kind", EXPORT_AGAIN)
    return counts


def _object(name: str, line: int, text: bytes) -> dict[str, Any]:
    try:
        found = json.loads(text, parse_constant=str)
    except (ValueError, RecursionError) as error:
        raise OutOfRange(
            name, f"line {line}: {str(error)[:60]}", "one JSON object a line", EXPORT_AGAIN
        ) from error
    if not isinstance(found, dict):
        raise OutOfRange(name, f"line {line}", "one JSON object a line", EXPORT_AGAIN)
    return found


def archive_schema() -> dict[str, Any]:
    """Return the JSON Schema of every kind of line, from the models themselves."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Jade Perch, everything: one object a line in each file",
        "format": MARK,
        "version": VERSION,
        "files": {FILES[kind]: _line_schema(KINDS[kind]) for kind in KINDS}
        | {FILES[CHOICE]: UsualChoice.model_json_schema()},
    }


def _line_schema(kind: KeptKind) -> dict[str, Any]:
    schema = kind.model.model_json_schema()
    properties = {key: value for key, value in schema["properties"].items() if key != "version"}
    properties["id"] = {"type": "integer", "minimum": 1}
    if kind.is_referred:
        properties["deleted_at_utc"] = {"type": "string", "format": "date-time"}
    required = ["id", *schema.get("required", [])]
    return {**schema, "properties": properties, "required": required}
