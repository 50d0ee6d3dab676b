# Keeps the servers, the simulated rig and PostgreSQL running; sourced by ./start, after common.sh and postgres.sh.

logs="$data/logs"
restarts=()
most_restarts=5 within_seconds=600

# start_server I: a session of its own, so that Ctrl-C reaches ./start first and the parts are stopped in order.
start_server() {
  local i=$1 name own
  name=$(name_of "$i") own="$logs"
  [ "$i" -eq 0 ] || own="$logs/$name"
  mkdir -p "$own"
  chmod 700 "$logs"
  keep_small "$logs/$name.out"
  [ -n "${BackupFolder:-}" ] || (umask 077; mkdir -p "$data/backups")
  # Only one fills a workshop.
  local more=("${reach[@]}")
  [ "$i" -gt 0 ] || more+=("${filling[@]}")
  (umask 077; exec setsid dotnet Remedos.Server.dll --Port "${server_ports[$i]}" --FileStore "${FileStore:-$data/files/$database}" --LogFolder "$own" --LeadLinkFile "$data/lead-link" --KeyFile "$data/keys.pfx" --BackupFolder "${BackupFolder:-$data/backups}" --Demo "$demo" "${more[@]}" >>"$logs/$name.out" 2>&1 9>&-) &
  server_pids[$i]=$!
  remember "$name" "$!"
}

name_of() { if [ "$1" -eq 0 ]; then echo server; else echo "server-$(($1 + 1))"; fi; }

# Where nobody can sign in yet the server leaves a link for the first lead, which is shown here and nowhere else.
show_lead_link() {
  [ -f "$data/lead-link" ] || return 0
  say "Open this once, within two days, to sign in as the workshop’s lead: $(cat "$data/lead-link")"
  rm -f "$data/lead-link"
}

# Invented machines in the bays, twenty times faster than real while a run goes on.
start_rig() {
  keep_small "$logs/rig.log"
  setsid dotnet rig/Remedos.Bench.dll rig --server "http://127.0.0.1:$port" --speed 20 --open-bench >>"$logs/rig.log" 2>&1 9>&- &
  rig=$!
  remember rig "$rig"
}

# What a part printed before is kept, and once more what was there before that.
keep_small() {
  [ "$(stat -c %s "$1" 2>/dev/null || echo 0)" -lt 1000000 ] || mv "$1" "$1.1"
}

remember() { mkdir -p "$data/running"; echo "$2" >"$data/running/$1"; }

# A part of this checkout that still runs: its number may belong to another program by now.
is_ours() {
  local words
  words=$(tr '\0' ' ' <"/proc/$1/cmdline" 2>/dev/null) || return 1
  case $words in
    *Remedos.Server.dll* | *Remedos.Bench.dll*) [[ $(readlink "/proc/$1/cwd" 2>/dev/null) == "$builds/"* ]] ;;
    *redis-server\ 127.0.0.1:* | *nginx*/tmp/remedos-front-*) true ;;
    *) false ;;
  esac
}

# A ./start that was killed leaves its parts running: two servers on one database would be the next thing.
stop_leftovers() {
  local name pid found=false
  for name in $(ls "$data/running" 2>/dev/null); do
    pid=$(cat "$data/running/$name" 2>/dev/null) || continue
    if is_ours "$pid"; then
      found=true
      end_part "$pid"
    fi
    rm -f "$data/running/$name"
  done
  ! $found || say "An earlier ./start was killed; what it left running was stopped."
}

# Asks a part to end, and ends it when it does not within some seconds.
end_part() {
  local pid=$1
  kill "$pid" 2>/dev/null || return 0
  for _ in $(seq 40); do
    kill -0 "$pid" 2>/dev/null || return 0
    # A child that has ended stays in the table until it is waited for.
    [ "$(sed -n 's/^State:\t\(.\).*/\1/p' "/proc/$pid/status" 2>/dev/null)" != Z ] || return 0
    sleep 0.1
  done
  kill -9 "$pid" 2>/dev/null || true
}

stop_all() {
  trap '' INT TERM HUP
  trap - EXIT
  set +e
  local pid
  for pid in "$rig" "$front" "${server_pids[@]}" "$redis"; do
    [ -z "$pid" ] || end_part "$pid"
  done
  [ -z "$front_home" ] || rm -rf "$front_home"
  wait 2>/dev/null
  pg_stop database
  rm -rf "$data/address" "$data/running"
  say "Stopped."
}

# wait_for_server I [TENTHS]: until it takes connections; a minute and a half, where nobody says how long.
wait_for_server() {
  for _ in $(seq "${2:-900}"); do
    kill -0 "${server_pids[$1]}" 2>/dev/null || return 1
    takes_connections "${server_ports[$1]}" && return 0
    sleep 0.1
  done
  return 1
}

takes_connections() { (exec 3<>"/dev/tcp/${address/#0.0.0.0/127.0.0.1}/$1") 2>/dev/null; }

# why_it_ended I: the server's own sentence where it has one.
why_it_ended() {
  local sentence
  sentence=$(tail -n 20 "$logs/$(name_of "$1").out" 2>/dev/null | sed -n 's/^remedos: //p' | tail -n 1)
  printf '%s' "${sentence:-the server ended; its logs are in $logs.}"
}

# may_restart WHAT: tells, and ends everything when it has happened too often.
may_restart() {
  local now=$SECONDS recent=() at
  for at in "${restarts[@]}"; do
    [ $((now - at)) -lt $within_seconds ] && recent+=("$at")
  done
  restarts=("${recent[@]}" "$now")
  if [ ${#restarts[@]} -gt $most_restarts ]; then
    die "$1 has ended $most_restarts times in ten minutes and is not started again; the logs are in $logs."
  fi
  say "$(date +%H:%M:%S) $1 has ended and is started again (${#restarts[@]} of $most_restarts in ten minutes); the logs are in $logs."
}

# Looks after all parts until something ends it.
watch_over() {
  local turn=0 i
  while :; do
    sleep 1 9>&- &
    wait $! || true
    for i in "${!server_pids[@]}"; do
      kill -0 "${server_pids[$i]}" 2>/dev/null || restart_server "$i"
    done
    if [ -n "$redis" ] && ! kill -0 "$redis" 2>/dev/null; then
      may_restart "Redis"
      start_redis
    fi
    if [ -n "$front" ] && ! kill -0 "$front" 2>/dev/null; then
      may_restart "The front"
      start_front
    fi
    if [ -n "$rig" ] && ! kill -0 "$rig" 2>/dev/null; then
      may_restart "The simulated rig"
      start_rig
    fi
    turn=$(((turn + 1) % 3))
    if [ $turn = 0 ] && ! pg_is_running database; then
      may_restart "PostgreSQL"
      pg_start database
    fi
  done
}

# restart_server I: unless it has said why it cannot start.
restart_server() {
  local status=0
  { wait "${server_pids[$1]}" || status=$?; } 2>/dev/null
  # 3: it would say the same again.
  [ "$status" -ne 3 ] || die "$(why_it_ended "$1")"
  may_restart "$([ "${#server_pids[@]}" -eq 1 ] && echo "The server" || echo "Server $(($1 + 1))")"
  start_server "$1"
  # Others answer meanwhile, and need to be watched.
  [ "${#server_pids[@]}" -gt 1 ] || wait_for_server "$1" || true
}

# dump_before_migrating DATABASE: when this version changes a database's tables, what was there is kept first.
dump_before_migrating() {
  local newest applied to
  newest=$(cat "$app/migration")
  [ "$(pg_sql "SELECT 1 FROM pg_database WHERE datname = '$1'")" = 1 ] || return 0
  applied=$(pg_sql_in "$1" 'SELECT migration_id FROM "__EFMigrationsHistory" ORDER BY 1 DESC LIMIT 1' 2>/dev/null) || return 0
  [ -n "$applied" ] && [[ "$applied" < "$newest" ]] || return 0
  to="$data/before-migration/$1-$applied-$(date +%Y%m%d-%H%M%S).dump"
  mkdir -p "${to%/*}"
  chmod 700 "${to%/*}"
  pg_dump_to "$1" "$to" || die "the database could not be kept before it is changed; nothing was changed. Is the disk full?"
  say "The database as it was is kept in $to."
}
