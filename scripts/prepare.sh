# Shared by ./start and ./test: installs what is missing, and does nothing where all is there.
# Sourced with ROOT set to the project's folder.

say() { printf '%s\n' "$*"; }
stop() { printf '\n%s\n' "$*" >&2; exit 1; }

RUN="$ROOT/.run"
VENV="$ROOT/.venv"
PYTHON="$VENV/bin/python"
mkdir -p "$RUN"
# Many processes are begun from here: what Python has compiled once is kept for all.
unset PYTHONDONTWRITEBYTECODE

# A stamp holds the fingerprint of what a step was last built from.
fingerprint() { cat "$@" 2>/dev/null | sha256sum | cut -d' ' -f1; }
stamped() { [ "$(cat "$RUN/stamp-$1" 2>/dev/null)" = "$2" ]; }
stamp() { printf '%s' "$2" >"$RUN/stamp-$1"; }

# Only one copy of a checkout prepares at a time; another waits for it.
exec 9>"$RUN/prepare.lock"
flock 9

prepare_debian() {
  local wanted=(mariadb-server-core mariadb-client-core libmariadb-dev pkg-config gcc python3-dev python3-venv)
  [ "${1:-}" = browser ] && wanted+=(chromium-headless-shell)
  local missing=() package
  for package in "${wanted[@]}"; do
    dpkg-query -W -f='${db:Status-Status}' "$package" 2>/dev/null | grep -qx installed || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return
  local as_root=()
  if [ "$(id -u)" -ne 0 ]; then
    if command -v sudo >/dev/null && { [ -t 0 ] || sudo -n true 2>/dev/null; }; then
      as_root=(sudo)
    else
      stop "These Debian packages are missing, and this account may not install them: ${missing[*]}
Ask an administrator to run:  apt-get install ${missing[*]}
Then run this command again."
    fi
  fi
  say "Installing Debian packages: ${missing[*]}"
  "${as_root[@]}" apt-get update -qq || say "The package list could not be refreshed; going on with the one that is here."
  "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >"$RUN/apt.log" 2>&1 ||
    stop "Installing Debian packages failed. The reason is in $RUN/apt.log:
$(tail -n 5 "$RUN/apt.log")"
}

# By uv, which takes seconds; by pip where uv finds no way, as with an index that only pip is told of.
install_python_packages() {
  local pip=("$VENV/bin/pip" install --quiet --disable-pip-version-check --require-hashes -r)
  { "${pip[@]}" "$ROOT/scripts/installer.lock" &&
    "$VENV/bin/uv" pip install --quiet --python "$PYTHON" --require-hashes -r "$ROOT/requirements.lock"; } ||
    "${pip[@]}" "$ROOT/requirements.lock"
}

prepare_python() {
  local mark
  mark=$(fingerprint "$ROOT/requirements.lock" "$ROOT/scripts/installer.lock")
  [ -x "$PYTHON" ] && stamped python "$mark" && return
  /usr/bin/python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' ||
    stop "Python 3.11 or newer is needed as /usr/bin/python3; Debian 12 and later have it."
  say "Setting up Python packages"
  [ -x "$PYTHON" ] || /usr/bin/python3 -m venv "$VENV" || stop "The virtual environment could not be made in $VENV."
  install_python_packages >"$RUN/pip.log" 2>&1 ||
    stop "Installing Python packages failed. The reason is in $RUN/pip.log:
$(tail -n 5 "$RUN/pip.log")"
  stamp python "$mark"
}

prepare_node() {
  command -v node >/dev/null && command -v npm >/dev/null ||
    stop "Node.js 20.19 or newer (with npm) is needed to build the screens and was not found.
Install it from your usual source of Node.js, see that 'node --version' answers, then run this command again."
  node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' ||
    stop "Node.js 20.19 or newer is needed to build the screens; here it is $(node --version). Update it, then run this command again."
  local mark
  mark=$(fingerprint "$ROOT/web/package-lock.json")
  [ -d "$ROOT/web/node_modules" ] && stamped node "$mark" && return
  say "Setting up the packages of the screens"
  (cd "$ROOT/web" && npm ci --no-audit --no-fund >"$RUN/npm.log" 2>&1) ||
    stop "Installing the packages of the screens failed. The reason is in $RUN/npm.log:
$(tail -n 5 "$RUN/npm.log")"
  stamp node "$mark"
}

# The two at once: one is unpacked while the other is fetched.
prepare_python_and_node() {
  prepare_python &
  local python=$!
  prepare_node
  wait "$python"
}

# The types of the web come from the server's OpenAPI document, so both are made in one step.
prepare_web() {
  local sources mark
  mapfile -d '' sources < <(cd "$ROOT" && find web/src web/index.html web/*.json web/vite.config.ts thistlequartz -type f \
    ! -path 'web/src/api/schema.d.ts' ! -path 'web/src/api/openapi.json' \
    \( -path 'web/*' -o -name '*.py' -o -name '*.lark' \) -print0 | sort -z)
  mark=$(cd "$ROOT" && fingerprint "${sources[@]}")
  [ -f "$ROOT/web/dist/index.html" ] && [ -f "$ROOT/web/src/api/schema.d.ts" ] && stamped web "$mark" && return
  say "Building the screens"
  {
    (cd "$ROOT" && "$PYTHON" -m thistlequartz.server.manage export_openapi_schema \
      --api thistlequartz.server.api.api --indent 1 --output web/src/api/openapi.json) &&
      (cd "$ROOT/web" && npm run --silent types && npm run --silent build) &&
      (cd "$ROOT" && "$PYTHON" -m whitenoise.compress --quiet web/dist)
  } >"$RUN/build.log" 2>&1 ||
    stop "Building the screens failed. The reason is in $RUN/build.log:
$(tail -n 15 "$RUN/build.log")"
  stamp web "$mark"
}

prepared() { exec 9>&-; }
