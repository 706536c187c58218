# What the machine must have: Debian packages, Node.js, the npm packages. Installed without asking on Debian.

NODE_MAJOR=20
NODE_MINOR=9

# Pairs "program package": what the database needs, and what reads media.
FOR_DATABASE=(mariadbd mariadb-server-core mariadb mariadb-client-core)
FOR_MEDIA=(ffmpeg ffmpeg unprocessed_raw libraw-bin prlimit util-linux)

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null; then sudo "$@"; else
    fail "installing packages needs root and there is no sudo." "As root: apt-get install ${MISSING_PACKAGES[*]:-}"
  fi
}

# The package lists are renewed once a run, by whichever asks first.
LISTS_RENEWED=

apt_get() { as_root env DEBIAN_FRONTEND=noninteractive apt-get -o DPkg::Lock::Timeout=600 -qq "$@"; }

renew_lists() {
  [ -z "$LISTS_RENEWED" ] || return 0
  quietly "apt-get update" apt_get update || say "The package lists could not be renewed; going on with the old ones."
  LISTS_RENEWED=1
}

# Which of the given pairs "program package" lack their program: sets MISSING_PACKAGES.
find_missing() {
  MISSING_PACKAGES=()
  while [ $# -ge 2 ]; do
    find_program "$1" >/dev/null || MISSING_PACKAGES+=("$2")
    shift 2
  done
}

# Everything that may be missing in one go, sooner than part by part. What doesn't come so is asked for by itself later, and told then. Fails
# where nothing was asked for.
fetch_packages_at_once() {
  find_missing "$@"
  [ ${#MISSING_PACKAGES[@]} != 0 ] && command -v apt-get >/dev/null || return 1
  say "Installing ${MISSING_PACKAGES[*]} …"
  renew_lists
  quietly "apt-get install" apt_get install -y --no-install-recommends "${MISSING_PACKAGES[@]}" 2>/dev/null || true
}

# Installs Debian packages of which the given program is missing: pairs "program package".
ensure_packages() {
  find_missing "$@"
  [ ${#MISSING_PACKAGES[@]} = 0 ] && return 0
  if ! command -v apt-get >/dev/null; then
    fail "this system has no apt-get, so please install by hand what these Debian packages hold:" "${MISSING_PACKAGES[*]}"
  fi
  say "Installing ${MISSING_PACKAGES[*]} …"
  renew_lists
  quietly "apt-get install" apt_get install -y --no-install-recommends "${MISSING_PACKAGES[@]}" ||
    fail "apt-get could not install ${MISSING_PACKAGES[*]}." "Look at the lines above; is the network up? Then run the same command again."
}

# The fence around decoders: without it they run with their limits alone, which is told.
ensure_fence() {
  (ensure_packages bwrap bubblewrap) || say "Going on without bubblewrap: decoders run without a fence of their own."
}

# Phones' HEIC stills; without it they are told as files that can't be read. Newer Debians put the decoder itself in a package of its own.
ensure_heif() {
  (
    ensure_packages heif-convert libheif-examples
    heif-convert --list-decoders 2>/dev/null | grep -q 265 || ensure_packages libheif-plugin-libde265 libheif-plugin-libde265
  ) || say "Going on without libheif's decoder: HEIC pictures can't be read."
}

# JPEG XL stills, likewise.
ensure_jxl() {
  (ensure_packages djxl libjxl-tools) || say "Going on without libjxl's decoder: JPEG XL pictures can't be read."
}

# What prints PDFs and drives the tests: the browser without a window is enough, the whole one serves where it is there or alone to be had.
ensure_browser() {
  if ! find_program chromium-headless-shell >/dev/null && ! find_program chromium >/dev/null; then
    (ensure_packages chromium-headless-shell chromium-headless-shell) || ensure_packages chromium chromium
  fi
  GLADE_CHROMIUM=$(find_program chromium-headless-shell || find_program chromium)
  export GLADE_CHROMIUM
}

# Daemons lie in sbin, which isn't on every user's PATH.
find_program() { PATH="$PATH:/usr/sbin:/usr/local/sbin:/sbin" command -v "$1"; }

node_is_new_enough() {
  command -v node >/dev/null || return 1
  local version major minor
  version=$(node -v) || return 1
  IFS=. read -r major minor _ <<<"${version#v}"
  [ "$major" -gt $NODE_MAJOR ] || { [ "$major" = $NODE_MAJOR ] && [ "$minor" -ge $NODE_MINOR ]; }
}

# Debian 12 brings Node.js 18; a newer one comes as an npm package of binaries, kept inside this folder.
ensure_node() {
  local own="$ROOT/var/node/node_modules/.bin"
  if [ -x "$own/node" ]; then PATH="$own:$PATH"; fi
  node_is_new_enough && command -v npm >/dev/null && return 0
  ensure_packages node nodejs npm npm
  node_is_new_enough && return 0
  local machine
  case "$(uname -m)" in
    x86_64) machine=x64 ;;
    aarch64) machine=arm64 ;;
    *) fail "Node.js $NODE_MAJOR.$NODE_MINOR or newer is needed and this machine ($(uname -m)) has no package of it." "Install it by hand, then run the same command again." ;;
  esac
  say "Fetching Node.js $NODE_MAJOR …"
  mkdir -p "$ROOT/var/node"
  quietly "npm install node" npm install --prefix "$ROOT/var/node" --ignore-scripts --no-audit --no-fund "node-linux-$machine@^$NODE_MAJOR.$NODE_MINOR.0" ||
    fail "Node.js $NODE_MAJOR could not be fetched." "Install Node.js $NODE_MAJOR.$NODE_MINOR or newer by hand, then run the same command again."
  mkdir -p "$own"
  ln -sf "../node-linux-$machine/bin/node" "$own/node"
  PATH="$own:$PATH"
  hash -r
  node_is_new_enough || fail "the fetched Node.js doesn't run here." "Install Node.js $NODE_MAJOR.$NODE_MINOR or newer by hand, then run the same command again."
}

# The npm packages: those that build and run the application, or with "all" those of its checks too (half as many again).
ensure_modules() {
  local stamp=node_modules/.glade-stamp wanted there
  wanted="$(sha256sum package-lock.json package.json | sha256sum) $(node -v)"
  there=$(cat "$stamp" 2>/dev/null || true)
  if [ "${1:-}" = all ]; then wanted="$wanted all"; fi
  [ "$there" = "$wanted" ] || [ "$there" = "$wanted all" ] && return 0
  say "Installing the npm packages …"
  local omit=(--omit=dev)
  if [ "${1:-}" = all ]; then omit=(); fi
  quietly "npm ci" npm ci --no-audit --no-fund "${omit[@]}" || fail "npm ci failed." "Look at the lines above; is the network up? Then run the same command again."
  printf '%s' "$wanted" >"$stamp"
}

# The programs without Next: seconds. Built again when their sources changed.
ensure_node_build() {
  local stamp=dist/.glade-stamp wanted
  wanted="$(hash_of src/core src/media src/store src/jobs src/simulator src/cli src/ui/sheetWorker.ts demo scripts/bundle.mjs package-lock.json)"
  [ -f "$stamp" ] && [ -f public/sheet-worker.js ] && [ "$(cat "$stamp")" = "$wanted" ] && return 0
  rm -rf dist
  quietly "bundle" node scripts/bundle.mjs || fail "building the worker failed." "Look at the lines above."
  printf '%s' "$wanted" >"$stamp"
}

ensure_web_build() {
  local stamp=.next/glade-stamp wanted
  wanted="$(hash_of src next.config.ts postcss.config.mjs tsconfig.json package-lock.json)"
  [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$wanted" ] && return 0
  say "Building the application (about a minute) …"
  rm -f "$stamp"
  quietly "next build" npm run --silent build:web || fail "building the application failed." "Look at the lines above."
  printf '%s' "$wanted" >"$stamp"
}
