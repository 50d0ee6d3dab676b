# PostgreSQL for this checkout alone; sourced after common.sh. See docs/operating.md.
#
# A cluster lives in $data/<name>: cluster/ (PostgreSQL's own), port, password, keeper-password, log. It runs as an unprivileged user, listens on
# loopback only and on no socket, and is made in cluster.new first, so that a half-made one is never taken for a whole one. Its superuser, keeper,
# makes databases; the server comes as remedos, which owns its databases and is no superuser.

# pg_bin [NAME]: the folder of PostgreSQL's programs: those that made the cluster NAME, where there is one, and the newest otherwise.
pg_bin() {
  local newest made
  made=$(as_pg cat "$(readlink -f "$data/${1:-no}" 2>/dev/null)/cluster/PG_VERSION" 2>/dev/null) || made=
  newest=$(ls -d "/usr/lib/postgresql/${made:-*}/bin" 2>/dev/null | sort -V | tail -n 1)
  newest=${newest:-$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1)}
  [ -x "$newest/postgres" ] || die "PostgreSQL is installed but its programs are not under /usr/lib/postgresql."
  printf '%s' "$newest"
}

# pg_same_version NAME BIN: a newer PostgreSQL does not read an older one's files, and says so in no words of ours.
pg_same_version() {
  local made is
  made=$(as_pg cat "$1/cluster/PG_VERSION" 2>/dev/null) || return 0
  is=$("$2/postgres" --version | sed -E 's/.* ([0-9]+)(\.|devel|beta|rc| ).*/\1/')
  [ "$made" = "$is" ] || die "the database in $1 was made by PostgreSQL $made, and PostgreSQL $is is what is installed; it does not read the other's files. Either install PostgreSQL $made beside it (Debian: postgresql-$made) and start again, or move the data over: docs/operating.md, “Another PostgreSQL”."
}

as_pg() {
  if [ "$(id -u)" -eq 0 ]; then
    (cd / && exec runuser -u postgres -- "$@")
  else
    "$@"
  fi
}

port_is_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() {
  local port
  for _ in $(seq 50); do
    port=$((20000 + RANDOM % 20000))
    port_is_free "$port" && { printf '%s' "$port"; return; }
  done
  die "no free port was found for PostgreSQL on 127.0.0.1."
}

# pg_home NAME: the folder of a cluster, reachable by the user that runs it.
pg_home() {
  local home="$data/$1"
  if [ "$(id -u)" -eq 0 ]; then
    mkdir -p "$data"
    if [ ! -e "$home" ] && ! as_pg test -x "$data" 2>/dev/null; then
      local elsewhere="/var/lib/remedos/$(printf '%s' "$root" | sha256sum | cut -c1-12)/$1"
      mkdir -p "$elsewhere"
      chmod 755 /var/lib/remedos "$(dirname "$elsewhere")"
      ln -sfn "$elsewhere" "$home"
    fi
    [ ! -L "$home" ] || [ -d "$home" ] || die "$home leads to a folder that is not there: a copy of the checkout does not hold its database. Restore it with ./remedos restore (docs/operating.md)."
    mkdir -p "$home/"
    chown postgres "$(readlink -f "$home")"
  else
    mkdir -p "$home/" 2>/dev/null && [ -w "$home/" ] || die "the folder $home may not be written to; give it back to $(id -un), or start as the user who owns it."
  fi
  readlink -f "$home"
}

# A password of its own in a file that only its owner reads.
new_password() {
  (umask 077; head -c 24 /dev/urandom | sha256sum | cut -c1-32 >"$1")
  [ "$(id -u)" -ne 0 ] || chown postgres "$1"
}

# pg_start NAME: makes the cluster if there is none, starts it if it does not run, sets $pg_port, $pg_password and $pg_keeper_password.
pg_start() {
  local home bin
  home=$(pg_home "$1")
  bin=$(pg_bin "$1")
  pg_same_version "$home" "$bin"
  if [ ! -d "$home/cluster" ]; then
    as_pg rm -rf "$home/cluster.new"
    new_password "$home/password"
    new_password "$home/keeper-password"
    step "Making a database cluster" "initdb-$1" as_pg "$bin/initdb" -D "$home/cluster.new" -U keeper --pwfile="$home/keeper-password" --auth=scram-sha-256 --encoding=UTF8 --locale=C.UTF-8
    as_pg mv "$home/cluster.new" "$home/cluster"
  fi
  pg_password=$(cat "$home/password") pg_keeper_password=$(cat "$home/keeper-password")
  if pg_is_running "$1"; then
    pg_port=$(sed -n 4p "$home/cluster/postmaster.pid")
    pg_ready && { pg_role; return; }
  fi
  # A crash leaves postmaster.pid behind; PostgreSQL refuses to start over it if its number now belongs to another process of that user.
  local pid
  pid=$(as_pg head -n 1 "$home/cluster/postmaster.pid" 2>/dev/null) || pid=
  if [ -n "$pid" ] && ! grep -qa postgres "/proc/$pid/cmdline" 2>/dev/null; then
    as_pg rm -f "$home/cluster/postmaster.pid"
  fi
  pg_port=$(cat "$home/port" 2>/dev/null) || pg_port=
  if [ -z "$pg_port" ] || ! port_is_free "$pg_port"; then
    pg_port=$(free_port)
  fi
  as_pg find "$home" -maxdepth 1 -name log -size +10M -exec mv {} "$home/log.1" \;
  if ! as_pg "$bin/pg_ctl" -D "$home/cluster" -l "$home/log" -w -t 60 \
      -o "-p $pg_port -c listen_addresses=127.0.0.1 -c unix_socket_directories=''" start >/dev/null 2>&1 8>&- 9>&-; then
    say "$(as_pg tail -n 5 "$home/log" 2>/dev/null)"
    [ "$(stat -c %U "$home/cluster")" = "$(stat -c %U "$home")" ] || say "The files in $home/cluster belong to $(stat -c %U "$home/cluster"), and have to belong to $(stat -c %U "$home")."
    die "PostgreSQL did not start; its log is $home/log."
  fi
  echo "$pg_port" >"$home/port"
  pg_ready || die "PostgreSQL started but does not answer on port $pg_port; its log is $home/log."
  pg_role
}

pg_is_running() {
  local home
  home=$(readlink -f "$data/$1")
  [ -d "$home/cluster" ] && as_pg "$(pg_bin "$1")/pg_ctl" -D "$home/cluster" status >/dev/null 2>&1
}

# The server's role: it owns its databases, and is no superuser.
pg_role() {
  [ "$(pg_sql "SELECT 1 FROM pg_roles WHERE rolname = 'remedos'")" = 1 ] || pg_sql "CREATE ROLE remedos LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE PASSWORD '$pg_password'"
}

pg_ready() {
  for _ in $(seq 100); do
    "$(pg_bin)/pg_isready" -q -h 127.0.0.1 -p "$pg_port" && return 0
    sleep 0.1
  done
  return 1
}

pg_stop() {
  local home
  home=$(readlink -f "$data/$1" 2>/dev/null) || return 0
  [ -d "$home/cluster" ] && as_pg "$(pg_bin "$1")/pg_ctl" -D "$home/cluster" -m fast -w -t 20 stop >/dev/null 2>&1 || true
}

# pg_tool PROGRAM DATABASE ARGUMENTS…: one of PostgreSQL's programs, as its keeper.
pg_tool() {
  local program=$1 database=$2; shift 2
  PGPASSWORD=$pg_keeper_password "$(pg_bin)/$program" -h 127.0.0.1 -p "$pg_port" -U keeper -d "$database" "$@"
}

pg_sql_in() { pg_tool psql "$1" -qtA -v ON_ERROR_STOP=1 -c "$2"; }

pg_sql() { pg_sql_in postgres "$1"; }

# pg_dump_to DATABASE FILE: a consistent picture of the database, while it runs; whole or not there.
pg_dump_to() {
  (umask 077; pg_tool pg_dump "$1" --format=custom --no-owner --file="$2.part") && mv "$2.part" "$2"
}

pg_make() { pg_sql "CREATE DATABASE $1 OWNER remedos"; }

# pg_connection DATABASE: makes the database if there is none, prints its connection string.
pg_connection() {
  [ "$(pg_sql "SELECT 1 FROM pg_database WHERE datname = '$1'")" = 1 ] || pg_make "$1"
  printf 'Host=127.0.0.1;Port=%s;Username=remedos;Password=%s;Database=%s' "$pg_port" "$pg_password" "$1"
}
