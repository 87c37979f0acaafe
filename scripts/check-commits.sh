#!/usr/bin/env bash
# Holds the subjects of commits to 72 characters, from the commit that wrote the rule down (see
# CONTRIBUTING.md). Without a history, as in an archive, there is nothing to check.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
SINCE=3369bc9
LONGEST=72
git rev-parse --git-dir >/dev/null 2>&1 || exit 0
newer=(-1) # in a shallow clone the newest alone
git cat-file -e "$SINCE^{commit}" 2>/dev/null && newer=("$SINCE..HEAD")
long=$(git log --format='%h %s' "${newer[@]}" | awk -v most="$LONGEST" 'length(substr($0, index($0, " ") + 1)) > most')
[ -z "$long" ] || {
  echo "These subjects are longer than $LONGEST characters; reword them:" >&2
  echo "$long" >&2
  exit 1
}
