# ./remedos backup and ./remedos restore: a workshop's database and files as one set; sourced after common.sh and postgres.sh.
#
# A set is a folder: database.dump, files/ and set (what it is of). The database is taken first and the files after it: a file is never changed or deleted, so whatever
# the picture of the database names is among them. It is made under another name and renamed when it is whole and checked.

backup() {
  local target=${1:?"remedos backup wants a folder that is not there yet, such as: ./remedos backup /mnt/stick/monday"} database=${2:-} running=true
  [ ! -e "$target" ] || die "$target is there already; a backup goes into a folder of its own."
  mkdir -p "$(dirname "$target")" || die "$(dirname "$target") cannot be made."
  [ -d "$data/database/" ] || die "there is no database in $data to back up."
  pg_is_running database || running=false
  pg_start database
  database=${database:-$(the_database)}
  local part="$target.part" files="$data/files/$database"
  rm -rf "$part"
  (umask 077; mkdir -p "$part/files") || die "$part cannot be made."
  pg_dump_to "$database" "$part/database.dump" || die "the database could not be taken; nothing was kept at $target."
  cp -a "$files/." "$part/files/" || die "the files could not be taken; nothing was kept at $target."
  rm -rf "$part/files/incoming"
  check_files "$part/files" "$(files_of "$database")" || die "the set is not whole; what there is of it is at $part."
  printf 'database=%s\ntaken=%s\nmigration=%s\ndump=%s\n' "$database" "$(date -Iseconds)" \
    "$(pg_sql_in "$database" 'SELECT migration_id FROM "__EFMigrationsHistory" ORDER BY 1 DESC LIMIT 1')" "$(sha256sum <"$part/database.dump" | cut -d' ' -f1)" >"$part/set"
  mv "$part" "$target"
  sync -f "$target" 2>/dev/null || true
  $running || pg_stop database
  say "Backed up: $target ($(du -sh "$target" | cut -f1), $(find "$target/files" -type f | wc -l) files)."
}

restore() {
  local source=${1:?"remedos restore wants the folder of a backup, such as: ./remedos restore /mnt/stick/monday"} database
  [ -f "$source/set" ] && [ -f "$source/database.dump" ] && [ -d "$source/files" ] || die "$source is no backup: it lacks set, database.dump or files."
  [ "$(sha256sum <"$source/database.dump" | cut -d' ' -f1)" = "$(set_value "$source" dump)" ] || die "the database in $source is not as it was taken; nothing was restored."
  exec 9>"$data/start.lock"
  flock -n 9 || die "Remedos runs from this folder. Stop it first."
  database=$(set_value "$source" database)
  [[ $database =~ ^[a-z][a-z0-9_]*$ ]] || die "$source/set names no database."
  require_packages postgresql tzdata
  [ ! -e "$data/files/$database" ] || die "there are files of “$database” here already, in $data/files/$database; restore into an empty checkout, or move them away first."
  pg_start database
  [ "$(pg_sql "SELECT 1 FROM pg_database WHERE datname = '$database'")" != 1 ] || { pg_stop database; die "there is a database “$database” here already; restore into an empty checkout."; }
  pg_make "${database}_restoring"
  pg_tool pg_restore "${database}_restoring" --no-owner --role=remedos --exit-on-error --single-transaction "$source/database.dump" || {
    pg_sql "DROP DATABASE ${database}_restoring"; pg_stop database; die "the database could not be restored; nothing was left here."; }
  (umask 077; mkdir -p "$data/files/$database.part")
  cp -a "$source/files/." "$data/files/$database.part/"
  chown -R "$(id -u):$(id -g)" "$data/files/$database.part"
  check_files "$data/files/$database.part" "$(files_of "${database}_restoring")" || {
    pg_sql "DROP DATABASE ${database}_restoring"; rm -rf "$data/files/$database.part"; pg_stop database; die "nothing was left here."; }
  mv "$data/files/$database.part" "$data/files/$database"
  pg_sql "ALTER DATABASE ${database}_restoring RENAME TO $database"
  [[ $database != demo* ]] || echo "$database" >"$data/demo-database"
  pg_stop database
  say "Restored: “$database” as it was at $(set_value "$source" taken). ./start$([[ $database == demo* ]] || echo ' --no-demo') opens it."
}

set_value() { sed -n "s/^$2=//p" "$1/set"; }

# The database that ./start opened last: the workshop's own where there is one, else the demo.
the_database() {
  if [ "$(pg_sql "SELECT 1 FROM pg_database WHERE datname = 'workshop'")" = 1 ]; then
    echo workshop
  else
    cat "$data/demo-database" 2>/dev/null || echo demo
  fi
}

# Hashes of all files that a database names.
files_of() {
  pg_sql_in "$1" "SELECT sha256 FROM log_files UNION SELECT sha256 FROM job_photos UNION SELECT thumbnail_sha256 FROM job_photos"
}

# check_files FOLDER HASHES: every file is what its name says, and every one that is named is there.
check_files() {
  local folder=$1 hash missing=0
  (cd "$folder" && find . -mindepth 2 -type f ! -path './incoming/*' -printf '%f  %p\n' | sha256sum --check --quiet --strict >&2) || { [ -z "$(find "$folder" -mindepth 2 -type f ! -path '*/incoming/*' -print -quit)" ] || { say "A file in $folder is not as it was kept."; return 1; }; }
  for hash in $2; do
    [ -f "$folder/${hash:0:2}/$hash" ] || missing=$((missing + 1))
  done
  # What was missing before is missing in the set as well, and told.
  [ $missing = 0 ] || say "$missing files that the database names are not in the store; the set holds all others."
}
