"""Refuses to pack what would not run: a wheel needs the built pages."""

from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

PAGES = Path(__file__).parent / "src/jade_perch/web/index.html"


class BuildWithPages(build_py):
    """Packs the modules and what lies beside them, once the pages are built."""

    def run(self) -> None:
        """Pack, or end with one line."""
        if not self.editable_mode and not PAGES.is_file():
            raise SystemExit("The pages are not built: run make build, then build the wheel.")
        super().run()


setup(cmdclass={"build_py": BuildWithPages})
