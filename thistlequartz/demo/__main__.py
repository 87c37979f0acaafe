"""The demo for pipelines: `python -m thistlequartz.demo rules`, `… records FORM --count N`."""

import argparse
import json
import os
import sys

from .forms import DRAFT, RELEASED
from .records import FAULTS, values_of

MOST_RECORDS = 1_000_000


def main(arguments: list[str] | None = None) -> int:
    """Print the RuleSet of Quillhaven, or invented records as JSON lines. Gives the exit code."""
    options = _options(arguments)
    try:
        if options.what == "rules":
            ruleset = DRAFT if options.draft else RELEASED
            print(ruleset.model_dump_json(indent=2))
        else:
            invented = values_of(options.form, options.seed, options.count, options.faults)
            for one in invented:
                print(json.dumps(one.values, ensure_ascii=False))
    except BrokenPipeError:  # whoever reads has seen enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


def _options(arguments: list[str] | None) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="thistlequartz.demo")
    what = parser.add_subparsers(dest="what", required=True)
    rules = what.add_parser("rules", help="the RuleSet of the four forms as JSON")
    rules.add_argument("--draft", action="store_true", help="the drafts, mistakes and all")
    records = what.add_parser("records", help="invented records, one JSON object a line")
    records.add_argument("form", choices=[form.key for form in RELEASED.forms])
    records.add_argument("--count", type=_count, default=100, help="up to a million")
    records.add_argument("--seed", type=int, default=1851, help="the same seed, the same records")
    records.add_argument(
        "--faults", type=_share, default=FAULTS, help="the share that has a slip in it, 0 to 1"
    )
    return parser.parse_args(arguments)


def _count(text: str) -> int:
    count = int(text)
    if not 0 <= count <= MOST_RECORDS:
        raise argparse.ArgumentTypeError(f"give a number from 0 to {MOST_RECORDS:,}")
    return count


def _share(text: str) -> float:
    share = float(text)
    if not 0 <= share <= 1:
        raise argparse.ArgumentTypeError("give a share from 0 to 1")
    return share


if __name__ == "__main__":
    sys.exit(main())
