# What the scripts share: stages, of which each says how far it is, how long it took, and why it failed.
set -eu
cd "$(dirname "$(readlink -f "${BASH_SOURCE[0]}")")/.."
mkdir -p build/logs

# Two runs in one tree would spoil each other's builds: the second waits for the first.
exec 9>build/.lock
if ! flock -n 9; then
  echo "another script works in this tree; waiting for it"
  flock 9
fi

running=""     # the process group of the stage at work
from_stage=""  # stages before this one are passed over
export SAUNTER_RUN=$$

# Whatever ends us ends what we began: the stage's group, and processes that left it, by what they have in their environment.
end_children() {
  local process
  [ -n "$running" ] || return 0
  kill -TERM -- "-$running" 2>/dev/null || true
  sleep 1  # builds end their own compilers
  kill -KILL -- "-$running" 2>/dev/null || true
  for process in /proc/[0-9]*; do
    if tr '\0' '\n' 2>/dev/null <"$process/environ" | grep -qx "SAUNTER_RUN=$SAUNTER_RUN"; then
      kill -KILL "${process#/proc/}" 2>/dev/null || true
    fi
  done
  running=""
}
trap end_children EXIT
trap 'exit 130' INT
trap 'exit 143' TERM HUP

# How far a build or a run of tests is, from the end of its log: " 42 %, about 80 s left".
progress_of() {  # LOG SECONDS_SO_FAR
  tail -c 4000 "$1" 2>/dev/null | tr '\r' '\n' | awk -v past="$2" '
    match($0, /^\[[0-9]+\/[0-9]+\]/) { split(substr($0, 2, RLENGTH - 2), n, "/"); done = n[1]; all = n[2] }
    match($0, /^ *[0-9]+\/[0-9]+ Test/) { text = $0; sub(/ Test.*/, "", text); split(text, n, "/"); done = n[1] + 0; all = n[2] }
    END {  # the first of them tell little
      if (all > 0 && done * 20 > all) printf " %d %%, about %d s left", 100 * done / all, past * (all - done) / done
      else if (all > 0) printf " %d of %d", done, all
    }'
}

# stage NAME COMMAND...: runs a command quietly, says how far it is and what it took, and the end of its output if it fails.
stage() {
  local name=$1 log began past told=0 status=0
  shift
  if [ -n "$from_stage" ]; then
    if [ "$from_stage" != "$name" ]; then
      printf '%-44s passed over\n' "$name"
      return 0
    fi
    from_stage=""
  fi
  log="build/logs/$(echo "$name" | tr -c 'A-Za-z0-9\n' '-').log"
  began=$(date +%s)
  [ ! -t 1 ] || printf '%-44s' "$name"
  set -m  # a process group of its own
  { TIMEFORMAT='%R %U %S'; time "$@" >"$log" 2>&1; } 2>"$log.time" &
  running=$!
  set +m
  while kill -0 "$running" 2>/dev/null; do
    sleep 0.2
    past=$(($(date +%s) - began))
    if [ -t 1 ]; then
      [ $past -gt $told ] || continue
      printf '\r%-44s%s \033[K' "$name" "$(progress_of "$log" $past)"
      told=$past
    elif [ $past -ge $((told + 60)) ]; then
      printf '  ... %s:%s\n' "$name" "$(progress_of "$log" $past)"
      told=$past
    fi
  done
  wait "$running" || status=$?
  running=""
  [ ! -t 1 ] || printf '\r\033[K'
  printf '%-44s' "$name"
  if [ $status -eq 0 ]; then
    awk '{ printf "ok, %d s (%d s of processor time)\n", $1 + 0.5, $2 + $3 + 0.5 }' "$log.time"
  else
    printf 'FAILED\n\n'
    tail -n 60 "$log"
    printf '\n%s failed; the whole output is in %s\n' "$name" "$log"
    [ -z "${go_on:-}" ] || printf 'go on from there: %s --from "%s"\n' "$go_on" "$name"
    exit 1
  fi
}

# beside COMMAND -- COMMAND ...: runs them side by side; fails when one does.
beside() {
  local command=() all=() one status=0
  for one in "$@" --; do
    if [ "$one" != -- ]; then
      command+=("$one")
    else
      "${command[@]}" &
      all+=($!)
      command=()
    fi
  done
  for one in "${all[@]}"; do wait "$one" || status=$?; done
  return $status
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

packages_to_build="g++ cmake ninja-build ccache mold pkg-config libeigen3-dev libfmt-dev libcli11-dev nlohmann-json3-dev \
libtomlplusplus-dev libcairo2-dev libpng-dev libutf8proc-dev fonts-dejavu-core"
packages_to_test="$packages_to_build catch2 clang-16 libtbb-dev chromium chromium-driver libcpp-httplib-dev python3 python3-numpy python3-jsonschema luajit"
packages_to_test_all="$packages_to_test doxygen dpkg-dev cppcheck clang-tidy-16"
