# Functions that start and check share. Sourced, not run.
#
# Steps that build something are skipped by content: each keeps the checksum
# of what it was made from, and runs again when that changed.

set -euo pipefail
cd "$root"
# one way of building for all that is built: what was compiled once serves tests, linters
# and the reproducible program alike
export GOFLAGS="${GOFLAGS:--trimpath}" GOTOOLCHAIN="${GOTOOLCHAIN:-local}"
stamps="$root/.keencrock/stamps"

say() { printf '%s\n' "$*"; }
fail() { printf '%s\n' "$*" >&2; exit 1; }

# need PROGRAM WHAT-TO-DO
need() { command -v "$1" >/dev/null || fail "$1 is missing: $2"; }

need_toolchains() {
  need go "install Go 1.26 or newer (go.dev) and put it on the PATH."
  need node "install Node 20.19 or newer and put it on the PATH."
  need npm "install npm; it comes with Node."
  node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' ||
    fail "Node $(node --version) is too old: install 20.19 or newer."
}

# debian PACKAGE… installs what is missing from Debian, as root or with sudo.
debian() {
  local missing=() package
  for package in "$@"; do
    dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} -gt 0 ] || return 0
  need apt-get "install ${missing[*]} by hand, then run this again."
  local as=()
  if [ "$(id -u)" -ne 0 ]; then
    need sudo "become root, or install ${missing[*]} by hand, then run this again."
    as=(sudo)
  fi
  say "Installing ${missing[*]} from Debian."
  local log
  log=$(mktemp)
  if ! { "${as[@]}" apt-get update -qq &&
    "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}"; } >"$log" 2>&1; then
    tail -n 20 "$log" >&2
    fail "Debian's packages ${missing[*]} could not be installed: look above, then run this again."
  fi
  rm -f "$log"
}

have_postgresql() { ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || command -v initdb >/dev/null; }

# checksum PATH… is one sum over the names and contents of files.
checksum() { find "$@" -type f -print0 | LC_ALL=C sort -z | xargs -0 sha256sum | sha256sum; }

# unless_made NAME SUM COMMAND… runs a command unless it was last run for SUM.
unless_made() {
  local stamp="$stamps/$1" sum=$2
  shift 2
  [ "$(cat "$stamp" 2>/dev/null)" = "$sum" ] && return 0
  "$@"
  mkdir -p "$stamps"
  printf '%s' "$sum" >"$stamp"
}

quietly() {
  local log
  log=$(mktemp)
  if ! "$@" >"$log" 2>&1; then
    tail -n 40 "$log" >&2
    rm -f "$log"
    return 1
  fi
  rm -f "$log"
}

page_packages() {
  [ -d ui/node_modules ] || rm -f "$stamps/packages"
  unless_made packages "$(checksum ui/package.json ui/package-lock.json) $(node --version)" install_page_packages
}
install_page_packages() {
  say "Installing the page's packages."
  (cd ui && quietly npm ci) || fail "npm ci failed in ui/: look above, then run this again."
}

build_page() {
  [ -f ui/dist/index.html ] || rm -f "$stamps/page"
  unless_made page "$(checksum ui/src ui/public ui/index.html ui/vite.config.ts ui/vite.worker.config.ts ui/package.json ui/package-lock.json)" build_page_now
}
build_page_now() {
  say "Building the page."
  (cd ui && quietly npm run build) || fail "The page does not build: look above."
  touch ui/dist/.keep
}

# commit_here says which commit this is a checkout of; nothing where there is no history. Whoever
# owns the folder may be another than who builds.
commit_here() {
  local at changed=
  at=$(git -c safe.directory='*' -C "$root" rev-parse --short=12 HEAD 2>/dev/null) || return 0
  git -c safe.directory='*' -C "$root" diff --quiet HEAD 2>/dev/null || changed=", changed since"
  printf '%s%s' "$at" "$changed"
}
build_binary() {
  [ -x bin/keencrock ] || rm -f "$stamps/binary"
  unless_made binary "$(checksum go.mod go.sum api cmd core demo internal ui/dist ui/files.go) $(go version) $(commit_here)" build_binary_now
}
build_binary_now() {
  say "Building Keen Crock."
  go build -trimpath -buildvcs=false -ldflags "-X 'main.commit=$(commit_here)'" -o bin/keencrock ./cmd/keencrock || fail "Keen Crock does not build: look above."
}
