# A MariaDB of the application's own: data below $GLADE_VAR, loopback only, its own port and socket. A server that runs
# already on this machine is never touched.

db_folder() { printf '%s/db' "$GLADE_VAR"; }

# A socket's path may be 107 bytes long at most; deep folders get one below /tmp.
db_socket() {
  local socket="$GLADE_VAR/db.sock"
  if [ ${#socket} -gt 100 ]; then socket="/tmp/glade-$(id -u)-$(printf '%s' "$GLADE_VAR" | sha256sum | cut -c1-12).sock"; fi
  printf '%s' "$socket"
}

db_pid() { cat "$GLADE_VAR/db.pid" 2>/dev/null || true; }

db_setting() { sed -n "s/.*\"$1\": *\"\{0,1\}\([^\",}]*\).*/\1/p" "$GLADE_VAR/database.json" 2>/dev/null; }

db_root() { MYSQL_PWD=$(db_setting rootPassword) "$(find_program mariadb)" --no-defaults --socket="$(db_socket)" -uroot "$@"; }

db_answers() { db_root -e 'select 1' >/dev/null 2>&1; }

db_running() { alive "$(db_pid)" && db_answers; }

random_word() { head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n'; }

free_port() {
  local port=$1
  while port_taken "$port"; do port=$((port + 1)); done
  printf '%s' "$port"
}

db_launch() {
  local port=$1
  (
    cd "$GLADE_VAR"
    exec setsid "$(find_program mariadbd)" --no-defaults --user="$(id -un)" --datadir="$(db_folder)" --socket="$(db_socket)" \
      --pid-file="$GLADE_VAR/db.pid" --port="$port" --bind-address=127.0.0.1 --skip-name-resolve \
      --character-set-server=utf8mb4 --collation-server=utf8mb4_bin --default-time-zone=+00:00 --sql-mode=STRICT_ALL_TABLES \
      --max-allowed-packet=64M --innodb-buffer-pool-size=128M --performance-schema=OFF </dev/null >>"$GLADE_VAR/db.log" 2>&1
  ) &
  disown
  for _ in $(seq 1 300); do
    if db_answers; then return 0; fi
    sleep 0.1
  done
  tail -n 15 "$GLADE_VAR/db.log" >&2
  return 1
}

# Starts the database, making it first where there is none. Sets DB_STARTED when it wasn't running before.
db_start() {
  DB_STARTED=
  mkdir -p "$GLADE_VAR"
  chmod 700 "$GLADE_VAR"
  db_running && return 0
  local port
  if [ ! -f "$GLADE_VAR/database.json" ]; then
    say "Making the database …"
    rm -rf "$(db_folder)"
    quietly "mariadb-install-db" "$(find_program mariadb-install-db)" --no-defaults --datadir="$(db_folder)" --user="$(id -un)" \
      --auth-root-authentication-method=normal --skip-test-db || fail "the database could not be made." "Look at the lines above; is there room on the disk?"
    port=$(free_port "${GLADE_DB_PORT:-33960}")
    db_launch "$port" || fail "the database does not start." "The last lines of $GLADE_VAR/db.log are above."
    local root_password password
    root_password=$(random_word)
    password=$(random_word)
    db_root <<SQL || fail "the database could not be set up." "Delete $GLADE_VAR/db and run the same command again."
DELETE FROM mysql.global_priv WHERE User = '' OR (User = 'root' AND Host <> 'localhost');
FLUSH PRIVILEGES;
CREATE DATABASE glade;
CREATE USER 'glade'@'127.0.0.1' IDENTIFIED BY '$password';
GRANT ALL ON \`glade%\`.* TO 'glade'@'127.0.0.1';
ALTER USER 'root'@'localhost' IDENTIFIED BY '$root_password';
SQL
    (umask 077 && printf '{ "port": %s, "password": "%s", "rootPassword": "%s" }\n' "$port" "$password" "$root_password" >"$GLADE_VAR/database.json")
  else
    port=$(db_setting port)
    if port_taken "$port"; then
      # Somebody else's server took the port while ours was down.
      port=$(free_port $((port + 1)))
      sed -i "s/\"port\": *[0-9]*/\"port\": $port/" "$GLADE_VAR/database.json"
    fi
    db_launch "$port" || fail "the database does not start." "The last lines of $GLADE_VAR/db.log are above; ./glade up --fresh begins anew without the old data."
  fi
  DB_STARTED=1
}

db_stop() {
  local pid
  pid=$(db_pid)
  alive "$pid" || return 0
  kill -TERM "$pid" 2>/dev/null || true
  for _ in $(seq 1 200); do
    alive "$pid" || return 0
    sleep 0.1
  done
  fail "the database (process $pid) does not stop." "kill -9 $pid ends it; nothing is lost by that."
}

ensure_running_database() {
  ensure_node
  db_running || fail "the application isn't running." "Start it with ./glade up in another terminal."
}

command_db() {
  case "${1:-}" in
    start)
      ensure_packages mariadbd mariadb-server-core mariadb mariadb-client-core
      db_start
      say "The database runs on 127.0.0.1:$(db_setting port)."
      ;;
    stop) db_stop; say "The database is stopped." ;;
    status) if db_running; then say "The database runs on 127.0.0.1:$(db_setting port)."; else say "The database is not running."; fi ;;
    shell) db_running || fail "the database is not running." "Start it with ./glade db start."; db_root glade ;;
    *) fail "db start, stop, status or shell?" ;;
  esac
}
