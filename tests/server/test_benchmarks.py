"""The benchmarks run from end to end; what they measure is not looked at here."""

import subprocess
import sys

from benchmarks.__main__ import ON_A_SERVER

from .copies import ROOT


def test_every_benchmark_runs_to_its_end():
    command = [sys.executable, "-m", "benchmarks", "--short"]
    ran = subprocess.run(command, cwd=ROOT, check=False, capture_output=True, text=True)
    assert ran.returncode == 0, ran.stdout + ran.stderr
    said = [line for line in ran.stdout.splitlines() if line.startswith("== ")]
    assert said == [f"== {name}" for name in ("core", "rules alone", *ON_A_SERVER)]
