# Small helpers that every part uses. Sourced by ./glade.

say() { printf '%s\n' "$*"; }

# What went wrong, then what to do about it.
fail() {
  printf 'glade: %s\n' "$1" >&2
  shift
  for line in "$@"; do printf '       %s\n' "$line" >&2; done
  exit 1
}

# Runs a long step quietly; on failure its output is shown.
quietly() {
  local what=$1 log
  shift
  log=$(mktemp)
  if ! "$@" >"$log" 2>&1; then
    cat "$log" >&2
    rm -f "$log"
    return 1
  fi
  rm -f "$log"
}

# Whether a process is there and its command line has this word: an id that was written down may name another's process by now.
names() { [ -n "${1:-}" ] && { tr '\0' '\n' <"/proc/$1/cmdline"; } 2>/dev/null | grep -qxF -- "$2"; }

alive() { [ -n "${1:-}" ] && kill -0 "$1" 2>/dev/null; }

port_taken() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

# One hash over the files that a step depends on.
hash_of() { { find "$@" -type f -print0 2>/dev/null || true; } | LC_ALL=C sort -z | xargs -0 sha256sum | sha256sum | cut -d" " -f1; }
