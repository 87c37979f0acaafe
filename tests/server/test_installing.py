"""Installing what is missing: by one way, by another where that fails, or told with the reason."""

import os
import subprocess
from pathlib import Path

import pytest

SCRIPT = Path(__file__).resolve().parents[2] / "scripts" / "prepare.sh"
NOTES = 'echo "$(basename "$0") $*" >>"$(dirname "$0")/../../called"\n'


@pytest.fixture
def copy(tmp_path: Path) -> Path:
    """The folder of a copy whose pip and uv only write down that they were called."""
    programs = tmp_path / ".venv" / "bin"
    programs.mkdir(parents=True)
    for name in ("python", "pip", "uv"):
        program(tmp_path, name, NOTES)
    (tmp_path / "scripts").mkdir()
    (tmp_path / "scripts" / "installer.lock").write_text("installer")
    (tmp_path / "requirements.lock").write_text("packages")
    return tmp_path


def program(copy: Path, name: str, does: str) -> None:
    path = copy / ".venv" / "bin" / name
    path.write_text(f"#!/bin/sh\n{does}")
    path.chmod(0o755)


def prepared(copy: Path) -> tuple[int, str, list[str]]:
    """The exit code of preparing Python there, what was said, and what was installed by whom."""
    called = copy / "called"
    called.write_text("")
    done = subprocess.run(
        ["bash", "-c", f'set -euo pipefail; ROOT="{copy}"; . "{SCRIPT}"; prepare_python'],
        capture_output=True,
        text=True,
        env={"PATH": os.environ["PATH"]},
        check=False,
    )
    by = [
        f"{line.split()[0]} {line.split()[-1].removeprefix(f'{copy}/')}"
        for line in called.read_text().splitlines()
    ]
    return done.returncode, done.stdout + done.stderr, by


def test_packages_are_installed_once_and_again_when_they_change(copy: Path) -> None:
    wanted = ["pip scripts/installer.lock", "uv requirements.lock"]
    assert prepared(copy)[::2] == (0, wanted)
    assert prepared(copy) == (0, "", [])
    (copy / "requirements.lock").write_text("others")
    assert prepared(copy)[::2] == (0, wanted)


def test_where_one_installer_finds_no_way_the_other_is_asked(copy: Path) -> None:
    program(copy, "uv", f"{NOTES}exit 2\n")
    code, _, by = prepared(copy)
    assert code == 0
    assert by == ["pip scripts/installer.lock", "uv requirements.lock", "pip requirements.lock"]


def test_package_installation_failure_is_told_and_retried(copy: Path) -> None:
    for name in ("pip", "uv"):
        program(copy, name, f"{NOTES}echo 'No space is left.' >&2\nexit 1\n")
    for _ in range(2):
        code, said, by = prepared(copy)
        assert code == 1
        assert "Installing Python packages failed." in said
        assert "No space is left." in said
        assert by[-1] == "pip requirements.lock"
