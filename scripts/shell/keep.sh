# Backups: all rows at one moment and all media, in one tar file that any tar and any MariaDB read. Passwords are left out. Those in
# var/backups share their media, each once under its hash in var/backups/media: what a night costs is what came that day.

command_backup() {
  ensure_running_database
  if [ $# = 0 ]; then
    local own="$GLADE_VAR/backups/glade-$(date +%Y-%m-%d-%H%M%S).tar"
    mkdir -p "$GLADE_VAR/backups"
    make_shared_backup "$own"
    say "$own: $(du -h "$own" | cut -f1), and its pictures in ${own%/*}/media: $(du -sh "${own%/*}/media" | cut -f1) of all backups there."
    return 0
  fi
  cd "$INVOKED_FROM"
  local file=$1
  mkdir -p "$(dirname "$file")"
  file=$(cd "$(dirname "$file")" && pwd)/$(basename "$file")
  [ ! -e "$file" ] || fail "$file is there already." "Name another file; a backup is never written over."
  cd "$ROOT"
  make_backup "$file"
  say "$file: $(du -h "$file" | cut -f1)."
}

# Writes a backup under its name only when it is whole.
make_backup() {
  local file=$1 folder
  folder=$(mktemp -d "$GLADE_VAR/backup.XXXXXX")
  chmod 700 "$folder"
  # What is named by the rows is there before and after: media only come and, long after, go.
  if ! node --enable-source-maps dist/keep.mjs rows "$folder"; then
    rm -rf "$folder"
    fail "the backup could not be made." "The line above says why."
  fi
  mkdir -p "$GLADE_VAR/media"
  if ! (umask 077 && tar -cf "$file.part" -C "$folder" manifest.json rows.sql -C "$GLADE_VAR" --exclude=media/incoming --exclude=media/uploads media && sync "$file.part" && mv "$file.part" "$file"); then
    rm -rf "$folder" "$file.part"
    fail "the backup could not be written." "Is there room on the disk for a copy of $GLADE_VAR/media?"
  fi
  rm -rf "$folder"
}

# The same with its media in the folder beside it, which it shares with the other backups there: one at a time works in it.
make_shared_backup() {
  mkdir -p "${1%/*}"
  (
    flock 9
    write_shared_backup "$1"
  ) 9>"${1%/*}/.lock" || exit 1
}

write_shared_backup() {
  local file=$1 shared=${1%/*}/media folder
  folder=$(mktemp -d "$GLADE_VAR/backup.XXXXXX")
  chmod 700 "$folder"
  mkdir -p "$shared"
  chmod 700 "$shared"
  # The rows first: what they name is there before and after.
  if ! { node --enable-source-maps dist/keep.mjs rows "$folder" && node --enable-source-maps dist/keep.mjs share "$shared" "$folder"; }; then
    rm -rf "$folder"
    fail "the backup could not be made." "The line above says why; is there room on the disk?"
  fi
  if ! (umask 077 && tar -cf "$file.part" -C "$folder" manifest.json rows.sql media.txt && sync "$file.part" && mv "$file.part" "$file"); then
    rm -rf "$folder" "$file.part"
    fail "the backup could not be written." "Is there room on the disk?"
  fi
  rm -rf "$folder"
}

# Takes from the shared media what no backup beside them needs any more; nothing where one of the backups can't be read.
prune_shared_media() {
  (
    flock 9
    prune_while_locked "$1"
  ) 9>"$1/.lock"
}

prune_while_locked() {
  local folder=$1 lists one n=0
  lists=$(mktemp -d)
  for one in "$folder"/*.tar; do
    n=$((n + 1))
    if tar -xOf "$one" media.txt >"$lists/$n" 2>/dev/null; then continue; fi
    rm -f "$lists/$n"
    # One that has its pictures in itself lists none.
    if ! tar -tf "$one" media/ >/dev/null 2>&1; then
      rm -rf "$lists"
      return 0
    fi
  done
  node --enable-source-maps dist/keep.mjs prune "$folder/media" "$lists"/* || true
  rm -rf "$lists"
}

command_restore() {
  [ $# -eq 1 ] || fail "restore takes the backup's file." "./glade restore FILE"
  local file folder="$GLADE_VAR/restoring"
  file=$(cd "$INVOKED_FROM" && readlink -f "$1")
  [ -f "$file" ] || fail "there is no file $1."
  if [ ! -e "$folder" ]; then
    if [ -e "$(db_folder)" ] || [ -n "$(ls -A "$GLADE_VAR/media" 2>/dev/null)" ]; then
      fail "there are data in $GLADE_VAR already, and nothing is written over." "Name another place: GLADE_VAR=/some/folder ./glade restore $1"
    fi
  else
    # One that was begun and didn't end: what it made is nobody's data yet.
    db_stop
    rm -rf "$(db_folder)" "$GLADE_VAR/media" "$(db_secrets)"
  fi
  tar -tf "$file" manifest.json rows.sql >/dev/null 2>&1 || fail "$1 is no backup of Aurora Glade, or it is cut short."
  { ensure_packages "${FOR_DATABASE[@]}" && ensure_node && ensure_modules && ensure_node_build; } >&2
  mkdir -p "$folder"
  chmod 700 "$GLADE_VAR" "$folder"
  tar -xf "$file" -C "$folder" --no-same-owner || fail "$1 could not be unpacked." "Is it complete, and is there room on the disk? Run the same command again."
  if [ -f "$folder/media.txt" ]; then
    node --enable-source-maps dist/keep.mjs fetch "$(dirname "$file")/media" "$folder" || fail "the backup’s pictures could not be taken out of the folder beside it." "The line above says why. It belongs beside $1; ./glade backup FILE writes one with all in it."
    mkdir -p "$folder/media"
  fi
  db_start
  node --enable-source-maps dist/keep.mjs tables "$folder" || fail "the backup could not be read." "The line above says why."
  db_root glade <"$folder/rows.sql" || fail "the rows could not be read back." "The line above says why."
  node --enable-source-maps dist/keep.mjs counted "$folder" || fail "not all rows came back." "The line above says which."
  mv "$folder/media" "$GLADE_VAR/media"
  node dist/manage.mjs migrate || fail "the database could not be brought up to date." "The line above says why."
  node --enable-source-maps dist/keep.mjs check || fail "the backup is not whole." "The lines above say what is missing."
  touch "$GLADE_VAR/demo-made"
  rm -rf "$folder"
  if [ -n "$DB_STARTED" ]; then db_stop; fi
  say "Restored into $GLADE_VAR. Start it with ./glade up."
}

command_check() {
  ensure_running_database
  exec node --enable-source-maps dist/keep.mjs check
}

# Once a night, where it was asked for; the last seven are kept. Tried once an hour where it fails.
nightly_backup() {
  local folder="$GLADE_VAR/backups" hour
  [ -n "$NIGHTLY" ] || return 0
  hour=$(date +%Y-%m-%d-%H)
  [ "$NIGHTLY_TRIED" != "$hour" ] && [ "${hour##*-}" -ge "$NIGHTLY_FROM" ] || return 0
  NIGHTLY_TRIED=$hour
  [ ! -e "$folder/nightly-${hour%-*}.tar" ] || return 0
  mkdir -p "$folder"
  (
    make_shared_backup "$folder/nightly-${hour%-*}.tar"
    keep_newest 7 "$folder"/nightly-*.tar
    prune_shared_media "$folder"
  ) &
}

# Removes all but the newest of some files.
keep_newest() {
  local count=$1
  shift
  # shellcheck disable=SC2012 -- names are our own
  ls -1t "$@" | tail -n "+$((count + 1))" | while read -r old; do rm -f "$old"; done
}

# Before the tables change, a copy of what is there; the last three are kept.
backup_before_migrating() {
  local waiting folder="$GLADE_VAR/backups"
  waiting=$(node dist/manage.mjs waiting) || return 1
  [ -n "$waiting" ] || return 0
  say "Tables change ($waiting); making a copy first …"
  mkdir -p "$folder"
  make_shared_backup "$folder/before-$(printf '%s' "$waiting" | tr ' ' '\n' | head -n 1)-$(date +%Y-%m-%d-%H%M%S).tar"
  keep_newest 3 "$folder"/before-*.tar
  prune_shared_media "$folder"
}
