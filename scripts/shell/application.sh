# Starting and stopping the application; measuring without it.

PORT=8420
# Where phones are answered with --lan; empty without. With https the gate itself stays on loopback, and a plain page hands the root out.
LAN_PORT=
GATE_PORT=
TRUST_PORT=
CERT=
KEY=
INSECURE=
# The name by which people sign in, with --host; its port, and the one of loopback that https is handed on to.
HOST_NAME=
HOST_PORT=
HOST_GATE_PORT=
WEB_PID=
WORKER_PID=
GATE_PID=
DEMO_PID=
# Backups by night: wanted, from which hour on, and when one was last tried.
NIGHTLY=
NIGHTLY_FROM=${GLADE_NIGHTLY_FROM:-3}
NIGHTLY_TRIED=

# What comes over the network and what is computed go side by side: Debian's packages are unpacked while npm's arrive and the pages are built.
prepare_application() {
  ensure_node
  local packages built=0
  fetch_packages_at_once "${FOR_DATABASE[@]}" "${FOR_MEDIA[@]}" \
    heif-convert libheif-examples djxl libjxl-tools chromium-headless-shell chromium-headless-shell bwrap bubblewrap &
  packages=$!
  (ensure_modules && ensure_node_build && ensure_web_build) || built=$?
  if wait "$packages"; then LISTS_RENEWED=1; fi
  [ "$built" = 0 ] || exit "$built"
  ensure_packages "${FOR_DATABASE[@]}" "${FOR_MEDIA[@]}"
  ensure_heif
  ensure_jxl
  ensure_browser
  ensure_fence
}

# What `up` starts ends with it, however that ends: nothing is left behind that holds the port or the data.
tied() { exec setpriv --pdeathsig TERM "$@"; }

start_web() {
  # shellcheck disable=SC2086 # both or none
  tied node --enable-source-maps dist/web.mjs "$PORT" $HOST_NAME $HOST_GATE_PORT >>"$GLADE_VAR/web.log" 2>&1 &
  WEB_PID=$!
}

start_gate() {
  [ -n "$LAN_PORT" ] || return 0
  local host=127.0.0.1
  [ "$GATE_PORT" != "$LAN_PORT" ] || host=0.0.0.0
  tied node --enable-source-maps dist/gate.mjs "$GATE_PORT" "$PORT" "$host" >>"$GLADE_VAR/gate.log" 2>&1 &
  GATE_PID=$!
}

# Which ports the network is answered on; what the web server tells of them.
choose_lan_ports() {
  LAN_PORT=$(free_port $((PORT + 1)))
  GATE_PORT=$LAN_PORT
  export GLADE_LAN_PORT=$LAN_PORT
  if [ -n "$INSECURE" ]; then return 0; fi
  GATE_PORT=$(free_port $((LAN_PORT + 1)))
  export GLADE_LAN_TLS=1
  if [ -n "$CERT" ]; then
    export GLADE_CERT=$CERT
    return 0
  fi
  TRUST_PORT=$(free_port $((GATE_PORT + 1)))
  export GLADE_TRUST_PORT=$TRUST_PORT
}

# Where people sign in. Names that this desk's own root may not vouch for need a certificate.
choose_host_ports() {
  [[ "$HOST_NAME" =~ ^[a-z0-9-]+(\.[a-z0-9-]+)+$ ]] && ! [[ "$HOST_NAME" =~ ^[0-9.]+$ ]] ||
    fail "--host needs a name with a dot in it, like bench.local: passkeys hold for a name, not for an address."
  [ -n "$CERT" ] || [[ "$HOST_NAME" =~ \.(local|localhost)$ ]] ||
    fail "the root of this desk vouches for local names alone, and $HOST_NAME is none." "Give a certificate of yours with --cert FILE --key FILE, or take a name that ends in .local."
  if [ -n "$HOST_PORT" ] && port_taken "$HOST_PORT"; then fail "port $HOST_PORT is in use." "Choose another: --host-port $(free_port $((HOST_PORT + 1)))"; fi
  HOST_PORT=${HOST_PORT:-$(free_port 8443)}
  HOST_GATE_PORT=$(free_port $((PORT + 10)))
}

# Rendered once, while one looks at what is there already.
start_demo() {
  tied nice -n 5 node dist/manage.mjs demo &
  DEMO_PID=$!
}

# Notes that the demo is whole, or says that it isn't.
end_demo() {
  if wait "$DEMO_PID"; then
    touch "$GLADE_VAR/demo-made"
    say "The demo is complete."
  else
    say "The demo could not be made whole; the lines above say why. ./glade demo makes the rest."
  fi
  DEMO_PID=
}

# Pages go before measuring: on a busy machine a server that begins again would else wait for it.
start_worker() {
  tied nice -n 5 node --enable-source-maps dist/worker.mjs >>"$GLADE_VAR/worker.log" 2>&1 &
  WORKER_PID=$!
}

wait_for_web() {
  for _ in $(seq 1 300); do
    if (exec 3<>"/dev/tcp/127.0.0.1/$PORT" && printf 'GET /api/health HTTP/1.0\r\nHost: localhost\r\n\r\n' >&3 && head -n 1 <&3 | grep -q ' 200') 2>/dev/null; then return 0; fi
    alive "$WEB_PID" || break
    sleep 0.1
  done
  tail -n 15 "$GLADE_VAR/web.log" >&2
  return 1
}

stop_application() {
  trap - EXIT
  trap '' INT TERM
  for pid in "$DEMO_PID" "$CADDY_PID" "$GATE_PID" "$WEB_PID" "$WORKER_PID"; do alive "$pid" && kill -TERM "$pid" 2>/dev/null; done
  for _ in $(seq 1 100); do
    alive "$GATE_PID" || alive "$WEB_PID" || alive "$WORKER_PID" || break
    sleep 0.1
  done
  for pid in "$GATE_PID" "$WEB_PID" "$WORKER_PID"; do alive "$pid" && kill -KILL "$pid" 2>/dev/null; done
  if [ -n "${DB_STARTED:-}" ]; then db_stop; fi
  rm -f "$GLADE_VAR/up.pid"
}

# Notes that a part ended, and gives up on one that ends again and again as soon as it has begun. What had run for a while was ended from
# outside, or met something rare: it is begun again however often that happens.
SOON_SECONDS=5
declare -A BEGAN SOON_ENDS
ended() {
  local part=$1 words=$2
  if [ $((SECONDS - ${BEGAN[$part]:-0})) -lt "$SOON_SECONDS" ]; then
    SOON_ENDS[$part]=$((${SOON_ENDS[$part]:-0} + 1))
  else
    SOON_ENDS[$part]=0
  fi
  if [ "${SOON_ENDS[$part]}" -gt 8 ]; then
    tail -n 10 "$GLADE_VAR/web.log" "$GLADE_VAR/worker.log" >&2
    fail "$words keeps ending." "The last lines of the logs are above."
  fi
  say "${words^} ended; starting it again."
  BEGAN[$part]=$SECONDS
}

# Restarts what dies, the database too, and gives up on what dies over and over.
watch_over() {
  while true; do
    # A shell that waits for a sleep is woken by Ctrl-C at once.
    sleep 0.5 &
    wait $! || true
    if [ -z "$(db_pid)" ]; then
      ended database "the database"
      db_launch "$(db_setting port)" || fail "the database does not start; its data in $(db_folder) are as they were." "The last lines of its log are above."
      DB_STARTED=1
    fi
    nightly_backup
    if [ -n "$DEMO_PID" ] && ! alive "$DEMO_PID"; then end_demo; fi
    if ! alive "$WEB_PID"; then ended web "the web server"; start_web; fi
    if ! alive "$WORKER_PID"; then ended worker "the worker"; start_worker; fi
    if [ -n "$LAN_PORT" ] && ! alive "$GATE_PID"; then ended gate "the gate for phones"; start_gate; fi
    if [ -n "$CADDY_PID" ] && ! alive "$CADDY_PID"; then ended https "the https server for phones"; start_caddy; fi
  done
}

throw_data_away() {
  [ -d "$GLADE_VAR/db" ] || [ -d "$GLADE_VAR/media" ] || return 0
  if [ -t 0 ]; then
    printf 'This throws away all sessions, pictures and readings in %s. Type yes to go on: ' "$GLADE_VAR"
    local answer
    read -r answer
    [ "$answer" = yes ] || fail "nothing was thrown away."
  elif [ "${GLADE_YES:-}" != 1 ]; then
    fail "--fresh asks before it throws data away and there is no terminal to ask on." "Set GLADE_YES=1 to answer yes."
  fi
  db_stop
  rm -rf "$GLADE_VAR/db" "$GLADE_VAR/media" "$GLADE_VAR/renditions" "$GLADE_VAR/database.json" "$GLADE_VAR"/*.log
}

command_up() {
  local fresh= lan=
  while [ $# -gt 0 ]; do
    case "$1" in
      --port)
        [[ "${2:-}" =~ ^[0-9]+$ ]] && [ "$2" -ge 1 ] && [ "$2" -le 65535 ] || fail "--port needs a number from 1 to 65535."
        PORT=$2
        shift 2
        ;;
      --fresh) fresh=1; shift ;;
      --lan) lan=1; shift ;;
      --insecure) INSECURE=1; shift ;;
      --cert) CERT=$(realpath -- "${2:-}" 2>/dev/null) || fail "--cert needs the file of a certificate."; shift 2 ;;
      --key) KEY=$(realpath -- "${2:-}" 2>/dev/null) || fail "--key needs the file of the certificate’s key."; shift 2 ;;
      --nightly) NIGHTLY=1; shift ;;
      --host) HOST_NAME=$(printf '%s' "${2:-}" | tr '[:upper:]' '[:lower:]'); [ -n "$HOST_NAME" ] || fail "--host needs a name."; shift 2 ;;
      --host-port)
        [[ "${2:-}" =~ ^[0-9]+$ ]] && [ "$2" -ge 1 ] && [ "$2" -le 65535 ] || fail "--host-port needs a number from 1 to 65535."
        HOST_PORT=$2
        shift 2
        ;;
      *) fail "up takes --port N, --lan, --insecure, --host NAME, --host-port N, --cert FILE, --key FILE, --nightly and --fresh, not “$1”." ;;
    esac
  done
  mkdir -p "$GLADE_VAR"
  [ ! -e "$GLADE_VAR/restoring" ] || fail "a restore into $GLADE_VAR was begun and didn't end." "Run ./glade restore FILE again."
  local other
  other=$(cat "$GLADE_VAR/up.pid" 2>/dev/null || true)
  # The id of one that was killed may be another program's by now.
  if [ "$other" != $$ ] && names "$other" up && grep -qa glade "/proc/$other/cmdline"; then fail "it is running already (process $other)." "Stop that one with Ctrl-C, or kill $other."; fi
  # What backups that were killed left half made.
  rm -rf "$GLADE_VAR"/backup.?????? "$GLADE_VAR"/backups/*.part
  if port_taken "$PORT"; then fail "port $PORT is in use." "Choose another: ./glade up --port $(free_port $((PORT + 1)))"; fi
  if [ -z "$lan$HOST_NAME" ] && [ -n "$CERT$KEY" ]; then fail "--cert and --key say how others are answered, which --lan and --host ask for."; fi
  if [ -z "$lan" ] && [ -n "$INSECURE" ]; then fail "--insecure says how phones are answered, which --lan asks for."; fi
  if [ -n "$HOST_NAME" ] && [ -n "$INSECURE" ]; then fail "nobody signs in without https: leave --insecure or --host out."; fi
  if [ -z "$HOST_NAME" ] && [ -n "$HOST_PORT" ]; then fail "--host-port says where --host NAME answers, which is missing."; fi
  if [ -n "$INSECURE" ] && [ -n "$CERT$KEY" ]; then fail "--insecure answers without a certificate: leave it or --cert out."; fi
  if [ -n "$CERT" ] && [ -z "$KEY" ] || [ -z "$CERT" ] && [ -n "$KEY" ]; then fail "--cert and --key go together."; fi
  if [ -n "$lan" ]; then choose_lan_ports; fi
  if [ -n "$HOST_NAME" ]; then choose_host_ports; fi
  prepare_application
  if [ -n "$fresh" ]; then throw_data_away; fi
  echo $$ >"$GLADE_VAR/up.pid"
  trap stop_application EXIT
  trap 'say; say "Stopping …"; exit 0' INT TERM
  DB_TIED=1
  db_start
  backup_before_migrating || fail "the database could not be read." "The line above says why; nothing was changed."
  node dist/manage.mjs migrate || fail "the database could not be brought up to date." "The line above says why."
  start_web
  start_worker
  start_gate
  if [ -n "$LAN_PORT$HOST_NAME" ] && [ -z "$INSECURE" ]; then start_tls "$LAN_PORT" "$GATE_PORT" "$TRUST_PORT" "$CERT" "$KEY"; fi
  wait_for_web || fail "the web server does not answer." "The last lines of $GLADE_VAR/web.log are above."
  say ""
  say "Aurora Glade is ready: http://localhost:$PORT"
  # Later starts find it there.
  if [ ! -f "$GLADE_VAR/demo-made" ] || [ -n "$fresh" ]; then
    say "The demo is being made meanwhile: its sittings come one by one, and the first page says how far it is."
    start_demo
  fi
  say "Open it and look at the demo’s verdict first; then drop pictures of your own on “New session”."
  if [ -n "$LAN_PORT" ]; then say "Phones on this network are answered on port $LAN_PORT, each with a code from a Shoot page and for that sheet alone."; fi
  if [ -n "$TRUST_PORT" ]; then say "They trust this desk after a visit to its port $TRUST_PORT (plain http), where it hands out the root of its certificates: $(openssl x509 -in "$(tls_folder)/root.crt" -noout -fingerprint -sha256 | cut -d= -f2)."; fi
  if [ -n "$HOST_NAME" ]; then
    say "People with an account sign in at https://$HOST_NAME:$HOST_PORT"
    node dist/people.mjs any || say "There is no account yet: ./glade user add NAME --role owner"
    if [ -z "$CERT$TRUST_PORT" ]; then say "Their machines trust this desk with its root, $(tls_folder)/root.crt: $(openssl x509 -in "$(tls_folder)/root.crt" -noout -fingerprint -sha256 | cut -d= -f2)."; fi
  fi
  if [ -n "$INSECURE" ]; then say "Without https (--insecure): whoever listens on this network reads along, and phones don't open a sheet again without a line."; fi
  if ! bwrap --unshare-all --ro-bind /usr /usr --symlink usr/lib /lib --symlink usr/lib64 /lib64 true 2>/dev/null; then
    say "This system lets no fence be built around decoders (bubblewrap): they run with limits of time and memory alone. Open files of people you know."
  fi
  say "Ctrl-C stops it."
  watch_over
}

# Who may sign in. A password comes from the terminal, unseen and twice, or as a line of standard input.
command_user() {
  local what=${1:-} first second
  ensure_running_database
  if [ "$what" = add ] || [ "$what" = password ]; then
    if [ -t 0 ]; then
      read -rsp 'Password: ' first && printf '\n' >&2
      read -rsp 'Once more: ' second && printf '\n' >&2
      [ "$first" = "$second" ] || fail "the two are not the same; nothing was changed."
    else
      read -r first || true
    fi
    printf '%s' "$first" | node dist/people.mjs "$@"
    return
  fi
  node dist/people.mjs "$@"
}

command_measure() {
  { ensure_packages "${FOR_MEDIA[@]}" && ensure_heif && ensure_jxl && ensure_fence && ensure_node && ensure_modules && ensure_node_build; } >&2
  # Paths are meant from where the command was typed.
  cd "$INVOKED_FROM"
  exec node --enable-source-maps "$ROOT/dist/measure.mjs" "$@"
}
