# Shared by the root commands; sourced, never run. Installs what is missing and builds what has changed.

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
# Another folder for the data keeps a second Remedos beside the first; what is built serves both.
data=${REMEDOS_DATA:-$root/.data}
builds="$root/.data/build"
mkdir -p "$data" "$builds"
chmod 711 "$data" 2>/dev/null || true

export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1 DOTNET_CLI_USE_MSBUILD_SERVER=0 MSBUILDDISABLENODEREUSE=1
export PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 npm_config_update_notifier=false

say() { printf '%s\n' "$*" >&2; }
die() { say "remedos: $*"; exit 1; }

# Runs a long step, its output kept in a file that is shown only when it fails.
step() {
  local title=$1 log="$data/logs/$2.log"; shift 2
  mkdir -p "$data/logs"
  local began=$SECONDS
  printf '%s … ' "$title" >&2
  if "$@" >"$log" 2>&1 9>&-; then
    printf 'done (%s s)\n' $((SECONDS - began)) >&2
  else
    printf 'failed\n' >&2
    grep -E '(error|Error|ERR!|E:)' "$log" | sort -u | head -n 20 >&2
    die "“$title” failed; all of its output is in $log."
  fi
}

require_sdks() {
  command -v dotnet >/dev/null || die "the .NET SDK 10 is needed and not on the path; install it and start again."
  dotnet --list-sdks | grep -q '^10\.' || die "the .NET SDK 10 is needed; found only: $(dotnet --list-sdks | cut -d' ' -f1 | xargs)."
  command -v node >/dev/null && command -v npm >/dev/null || die "Node.js 20 or newer with npm is needed and not on the path; install it and start again."
  [ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ] || die "Node.js 20 or newer is needed; found $(node --version)."
}

# Installs Debian packages as root; tells an ordinary user the one command to run.
require_packages() {
  local missing=() package
  for package in "$@"; do
    dpkg-query -W -f='${db:Status-Status}' "$package" 2>/dev/null | grep -qx installed || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return
  [ "$(id -u)" -eq 0 ] || die "${missing[*]} missing; run once: sudo apt-get update && sudo apt-get install -y --no-install-recommends ${missing[*]}"
  # What is installed is started here, where and as it is wanted, and not by the system.
  export DEBIAN_FRONTEND=noninteractive RUNLEVEL=1
  step "Installing ${missing[*]}" apt sh -c 'apt-get update && apt-get install -y --no-install-recommends "$@"' sh "${missing[@]}"
}

# A fingerprint of the files that a build depends on: names, sizes and times.
fingerprint() {
  find "$@" \( -name node_modules -o -name bin -o -name obj -o -name dist -o -name generated \) -prune -o -type f -printf '%p %s %T@\n' | sort | sha256sum | cut -c1-16
}

# with_lock NAME COMMAND…: one builder at a time in this checkout, so that ./start and ./test do not tread on each other.
with_lock() {
  local name=$1; shift
  exec 8>"$root/.data/$name.lock"
  flock -n 8 || { say "Waiting for another build in this folder …"; flock 8; }
  "$@"
  exec 8>&-
}

install_node_modules() {
  local stamp="$root/.data/node_modules.stamp" now
  now=$(sha256sum "$root/package-lock.json" | cut -c1-16)
  [ -d "$root/node_modules" ] && [ "$(cat "$stamp" 2>/dev/null)" = "$now" ] && return
  step "Installing the web packages" npm npm --prefix "$root" ci
  echo "$now" >"$stamp"
}

# Builds the server and the page into .data/build/app-<fingerprint>; prints nothing, sets $app. A running app keeps its own folder.
build_app() {
  local now
  now=$(cd "$root" && fingerprint src web Directory.Build.props Directory.Packages.props package-lock.json)
  app="$builds/app-$now"
  [ -f "$app/complete" ] && return
  install_node_modules
  rm -rf "$app"
  step "Building the server" build-server dotnet publish "$root/src/Remedos.Server" -c Release -o "$app" --nologo
  step "Building the simulated rig" build-rig dotnet publish "$root/src/Remedos.Bench" -c Release -o "$app/rig" --nologo
  step "Building the page" build-page npm --prefix "$root/web" run build -- --outDir "$app/wwwroot" --emptyOutDir
  ls "$root/src/Remedos.Data/Migrations" | sed -n 's/^\([0-9]*_[A-Za-z0-9]*\)\.cs$/\1/p' | sort | tail -n 1 >"$app/migration"
  touch "$app/complete"
  local old
  for old in "$builds"/app-*; do
    # Not the one that a server runs from, however long it has been up.
    [ "$old" = "$app" ] || [ -z "$(find "$old" -maxdepth 0 -mtime +2)" ] || in_use "$old" || rm -rf "$old"
  done
}

# Whether a process runs from a folder.
in_use() {
  local cwd
  for cwd in /proc/[0-9]*/cwd; do
    [[ $(readlink "$cwd" 2>/dev/null) == "$1"* ]] && return 0
  done
  return 1
}
