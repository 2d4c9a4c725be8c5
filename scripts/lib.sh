# What the scripts share: one line per stage, quiet otherwise, and the reason when a stage fails.
set -eu
cd "$(dirname "$(readlink -f "${BASH_SOURCE[0]}")")/.."
mkdir -p build/logs

# Two runs in one tree would spoil each other's builds: the second waits for the first.
exec 9>build/.lock
if ! flock -n 9; then
  echo "another script works in this tree; waiting for it"
  flock 9
fi

# stage NAME COMMAND...: runs a command, prints its name and time, shows the end of its output only if it fails.
stage() {
  local name=$1 log started
  shift
  log="build/logs/$(echo "$name" | tr -c 'A-Za-z0-9\n' '-').log"
  started=$(date +%s)
  printf '%-44s' "$name"
  if "$@" >"$log" 2>&1; then
    printf 'ok, %s s\n' "$(($(date +%s) - started))"
  else
    printf 'FAILED\n\n'
    tail -n 60 "$log"
    printf '\n%s failed; the whole output is in %s\n' "$name" "$log"
    exit 1
  fi
}

# need PACKAGES...: installs the Debian packages that are missing.
need() {
  local missing="" package
  for package in "$@"; do
    dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'install ok installed' || missing="$missing $package"
  done
  [ -n "$missing" ] || return 0
  local as_root=""
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null || { echo "these packages are missing and there is no sudo:$missing"; return 1; }
    as_root=sudo
  fi
  # Another program may hold the package system for a while.
  $as_root apt-get -o DPkg::Lock::Timeout=600 update -qq
  # shellcheck disable=SC2086  # the list is meant to be split
  DEBIAN_FRONTEND=noninteractive $as_root apt-get -o DPkg::Lock::Timeout=600 install -y -qq --no-install-recommends $missing
}

packages_to_build="g++ cmake ninja-build pkg-config libeigen3-dev libfmt-dev libcli11-dev nlohmann-json3-dev \
libtomlplusplus-dev libcairo2-dev libpng-dev libutf8proc-dev libcpp-httplib-dev fonts-dejavu-core"
packages_to_test="$packages_to_build catch2 clang-16 libtbb-dev chromium chromium-driver python3 python3-numpy python3-jsonschema luajit doxygen dpkg-dev"
