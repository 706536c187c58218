# A MariaDB of the application's own: data below $GLADE_VAR, loopback only, its own port and socket. A server that runs
# already on this machine is never touched.

db_folder() { printf '%s/db' "$GLADE_VAR"; }

# A socket's path may be 107 bytes long at most; deep folders get one below /tmp.
db_socket() {
  local socket="$GLADE_VAR/db.sock"
  if [ ${#socket} -gt 100 ]; then socket="/tmp/glade-$(id -u)-$(printf '%s' "$GLADE_VAR" | sha256sum | cut -c1-12).sock"; fi
  printf '%s' "$socket"
}

# The process that the id file names, where it is this database's: ids are given to others once theirs has ended.
db_pid() {
  local pid
  pid=$(cat "$GLADE_VAR/db.pid" 2>/dev/null || true)
  if names "$pid" "--datadir=$(db_folder)"; then printf '%s' "$pid"; fi
}

# Port and passwords lie in two places: beside the data, and with them.
db_secrets() { printf '%s/database.json' "$GLADE_VAR"; }
db_secrets_copy() { printf '%s/glade-secrets.json' "$(db_folder)"; }

db_setting() { sed -n "s/.*\"$1\": *\"\{0,1\}\([^\",}]*\).*/\1/p" "$(db_secrets)" 2>/dev/null; }

# Whether a file holds all that a start needs.
db_has_secrets() {
  local name
  for name in port password rootPassword; do
    grep -Eq "\"$name\": *\"?[0-9a-f]+\"?" "$1" 2>/dev/null || return 1
  done
}

# Written whole or not at all, for its owner alone. Words: port, password, root's password.
db_keep_secrets() {
  local file
  for file in "$(db_secrets)" "$(db_secrets_copy)"; do
    (umask 077 && printf '{ "port": %s, "password": "%s", "rootPassword": "%s" }\n' "$1" "$2" "$3" >"$file.part") && mv -f "$file.part" "$file" ||
      fail "$file could not be written." "Is there room on the disk?"
  done
}

db_root() { MYSQL_PWD=$(db_setting rootPassword) "$(find_program mariadb)" --no-defaults --socket="$(db_socket)" -uroot "$@"; }

db_answers() { db_root -e 'select 1' >/dev/null 2>&1; }

db_running() { [ -n "$(db_pid)" ] && db_answers; }

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
    # Started by `up` it ends with it, however that ends.
    exec ${DB_TIED:+setpriv --pdeathsig TERM} setsid "$(find_program mariadbd)" --no-defaults --user="$(id -un)" --datadir="$(db_folder)" --socket="$(db_socket)" \
      --pid-file="$GLADE_VAR/db.pid" --port="$port" --bind-address=127.0.0.1 --skip-name-resolve \
      --character-set-server=utf8mb4 --collation-server=utf8mb4_bin --default-time-zone=+00:00 --sql-mode=STRICT_ALL_TABLES \
      --max-allowed-packet=64M --innodb-buffer-pool-size=128M --performance-schema=OFF </dev/null >>"$GLADE_VAR/db.log" 2>&1
  ) &
  local pid=$!
  disown
  for _ in $(seq 1 300); do
    if db_answers; then return 0; fi
    # Ended already: its log says why.
    alive "$pid" || break
    sleep 0.1
  done
  tail -n 15 "$GLADE_VAR/db.log" >&2
  return 1
}

# Runs SQL from standard input on a data folder that no server has open; nobody is asked who he is.
db_bootstrap() {
  { printf 'FLUSH PRIVILEGES;\n'; cat; } | "$(find_program mariadbd)" --no-defaults --user="$(id -un)" --datadir="$1" --bootstrap \
    --skip-networking --sql-mode=STRICT_ALL_TABLES >>"$GLADE_VAR/db.log" 2>&1
}

# Makes a database in a folder beside, and gives it its name only when it is whole: what is half made is nobody's data.
db_make() {
  local port=$1 password root_password making
  making="$(db_folder).making"
  say "Making the database …"
  rm -rf "$making"
  quietly "mariadb-install-db" "$(find_program mariadb-install-db)" --no-defaults --datadir="$making" --user="$(id -un)" \
    --auth-root-authentication-method=normal --skip-test-db || fail "the database could not be made." "Look at the lines above; is there room on the disk?"
  password=$(random_word)
  root_password=$(random_word)
  db_bootstrap "$making" <<SQL || fail "the database could not be set up." "The last lines of $GLADE_VAR/db.log say why."
DELETE FROM mysql.global_priv WHERE User = '' OR (User = 'root' AND Host <> 'localhost');
FLUSH PRIVILEGES;
CREATE DATABASE glade CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE USER 'glade'@'127.0.0.1' IDENTIFIED BY '$password';
GRANT ALL ON \`glade%\`.* TO 'glade'@'127.0.0.1';
ALTER USER 'root'@'localhost' IDENTIFIED BY '$root_password';
SQL
  mv "$making" "$(db_folder)"
  db_keep_secrets "$port" "$password" "$root_password"
}

# New passwords for a database whose own are lost; its data stay as they are.
db_renew_secrets() {
  local port=$1 password root_password pid
  say "The passwords of the database are lost; giving it new ones. Its data stay as they are."
  pid=$(db_pid)
  if [ -n "$pid" ]; then db_stop; fi
  password=$(random_word)
  root_password=$(random_word)
  db_bootstrap "$(db_folder)" <<SQL || fail "the database in $(db_folder) could not be given new passwords; nothing was changed." "The last lines of $GLADE_VAR/db.log say why."
CREATE DATABASE IF NOT EXISTS glade CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE OR REPLACE USER 'glade'@'127.0.0.1' IDENTIFIED BY '$password';
GRANT ALL ON \`glade%\`.* TO 'glade'@'127.0.0.1';
ALTER USER 'root'@'localhost' IDENTIFIED BY '$root_password';
SQL
  db_keep_secrets "$port" "$password" "$root_password"
}

# Sees to it that there is a database and that its passwords are known. What lies in the data folder is never thrown away here.
db_prepare() {
  local port
  # Below the range that clients' own ends are given out from.
  port=$(free_port "${GLADE_DB_PORT:-23960}")
  if [ ! -e "$(db_folder)" ]; then
    db_make "$port"
  elif [ ! -d "$(db_folder)/mysql" ]; then
    fail "$(db_folder) is there, but it is no database of Aurora Glade." "Move it away to begin with a new one, or put the right one in its place."
  elif db_has_secrets "$(db_secrets)"; then
    cmp -s "$(db_secrets)" "$(db_secrets_copy)" || (umask 077 && cp "$(db_secrets)" "$(db_secrets_copy)") 2>/dev/null || true
  elif db_has_secrets "$(db_secrets_copy)"; then
    say "$(db_secrets) was missing or damaged; it is put back from its copy."
    (umask 077 && cp "$(db_secrets_copy)" "$(db_secrets).part") && mv -f "$(db_secrets).part" "$(db_secrets)"
  else
    db_renew_secrets "$port"
  fi
}

# Starts the database, making it first where there is none. Sets DB_STARTED when it wasn't running before.
db_start() {
  DB_STARTED=
  mkdir -p "$GLADE_VAR"
  chmod 700 "$GLADE_VAR"
  db_running && return 0
  local port pid
  db_prepare
  db_running && return 0
  pid=$(db_pid)
  # One that doesn't answer, though it is ours: it is starting, stopping, or stuck.
  if [ -n "$pid" ]; then db_wait_for "$pid" && return 0; db_stop; fi
  port=$(db_setting port)
  if port_taken "$port"; then
    # Somebody else's server took the port while ours was down.
    port=$(free_port "${GLADE_DB_PORT:-23960}")
    db_keep_secrets "$port" "$(db_setting password)" "$(db_setting rootPassword)"
  fi
  if ! db_launch "$port"; then
    # Nobody listened there, but a client's own end of a line may hold the port: older databases have theirs in the range that these are given out from.
    if tail -n 5 "$GLADE_VAR/db.log" | grep -q "Address already in use"; then
      port=$(free_port "${GLADE_DB_PORT:-23960}")
      db_keep_secrets "$port" "$(db_setting password)" "$(db_setting rootPassword)"
      db_launch "$port" || db_does_not_start
    else
      db_does_not_start
    fi
  fi
  DB_STARTED=1
}

db_does_not_start() {
  fail "the database does not start; its data in $(db_folder) are as they were." "The last lines of $GLADE_VAR/db.log are above: is there room on the disk, is the folder yours?"
}

# Waits for a server that is there already to answer; fails when it ends, or doesn't within a while.
db_wait_for() {
  for _ in $(seq 1 100); do
    db_answers && return 0
    alive "$1" || return 1
    sleep 0.1
  done
  return 1
}

db_stop() {
  local pid
  pid=$(db_pid)
  [ -n "$pid" ] || return 0
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
      ensure_packages "${FOR_DATABASE[@]}"
      db_start
      say "The database runs on 127.0.0.1:$(db_setting port)."
      ;;
    stop) db_stop; say "The database is stopped." ;;
    status) if db_running; then say "The database runs on 127.0.0.1:$(db_setting port)."; else say "The database is not running."; fi ;;
    shell) db_running || fail "the database is not running." "Start it with ./glade db start."; db_root glade ;;
    *) fail "db start, stop, status or shell?" ;;
  esac
}
