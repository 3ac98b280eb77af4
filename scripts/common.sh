# What ./run, ./test and .ci/run share: installing what is missing, building,
# and a PostgreSQL cluster of our own. Sourced by bash from the project's root.

say() { printf '%s\n' "$*" >&2; }
die() { say "$*"; exit 1; }

# sudo_if runs a command as root: directly when we are, through sudo otherwise.
sudo_if() { if [ "$(id -u)" = 0 ]; then "$@"; else sudo -n "$@"; fi; }

apt_install() {
  command -v apt-get >/dev/null || die "Missing: $*. Install it with your system's package manager and start again."
  say "Installing $* …"
  sudo_if apt-get update -qq || die "apt-get update failed: install $* by hand and start again."
  sudo_if env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@" >/dev/null || die "apt-get could not install $*."
}

pg_find() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

need_postgres() {
  PGBIN=$(pg_find)
  if [ -z "$PGBIN" ] || [ ! -x "$PGBIN/postgres" ]; then
    # Debian would start a cluster of its own on the standard port: not wanted.
    sudo_if mkdir -p /etc/postgresql-common/createcluster.d
    echo 'create_main_cluster = false' | sudo_if tee /etc/postgresql-common/createcluster.d/00-no-main.conf >/dev/null
    apt_install postgresql
    PGBIN=$(pg_find)
  fi
  [ -x "$PGBIN/postgres" ] || die "PostgreSQL's server was not found under /usr/lib/postgresql."
}

need_chromium() { [ -x "${CHROMIUM:-/usr/bin/chromium}" ] || apt_install chromium; }

# need_poppler is for the tests only: they read the PDFs' text back.
need_poppler() { command -v pdftotext >/dev/null || apt_install poppler-utils; }

need_tools() {
  command -v go >/dev/null || die "Go is missing: install Go 1.26 or newer."
  command -v npm >/dev/null || die "Node with npm is missing: install Node 20 or newer."
}

# as_pg runs a command as the user that owns a cluster: postgres when we are
# root, as PostgreSQL refuses root, ourselves otherwise.
as_pg() {
  if [ "$(id -u)" = 0 ]; then
    (cd / && setpriv --reuid=postgres --regid=postgres --init-groups -- env HOME=/tmp LC_ALL=C.UTF-8 "$@")
  else
    env LC_ALL=C.UTF-8 "$@"
  fi
}

port_taken() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() {
  local p=$1
  while port_taken "$p"; do p=$((p + 1)); [ "$p" -lt 65000 ] || die "No free port was found above $1."; done
  echo "$p"
}

# pg_start starts the cluster in a folder on a port of loopback, with more
# settings when they are given.
pg_start() {
  as_pg "$PGBIN/pg_ctl" -D "$1" -l "$1/server.log" -w -o "-c listen_addresses=127.0.0.1 -p $2 -c unix_socket_directories='' ${3:-}" start >/dev/null 2>&1
}

# pg_start_near starts the cluster in a folder on a free port from one on, and leaves the port in pgport. An outgoing
# connection of somebody's may have a port that nobody listens on, and after a kill the last children may hold the cluster's
# memory for a moment: it is tried again, on the next.
pg_start_near() {
  local try
  pgport=$(($2 - 1))
  for try in 1 2 3 4 5; do
    pgport=$(free_port $((pgport + 1)))
    pg_start "$1" "$pgport" "${3:-}" && return 0
    read -r -t 1 <> <(:) || true
  done
  return 1
}

# pg_pid prints the process id of a running cluster in a folder. A killed one
# may stay for a moment as a zombie and leave its pid file: that is waited for.
pg_pid() {
  local pid
  pid=$(head -n 1 "$1/postmaster.pid" 2>/dev/null) || return 1
  [ -n "$pid" ] || return 1
  for _ in $(seq 1 50); do
    [ -d "/proc/$pid" ] || return 1
    grep -q '^State:.*Z' "/proc/$pid/status" 2>/dev/null || break
    read -r -t 0.1 <> <(:) || true
  done
  grep -q postgres "/proc/$pid/comm" 2>/dev/null && echo "$pid"
}

# sum prints one hash over the named files and folders.
sum() { find "$@" -type f -not -path '*/node_modules/*' -not -path '*/dist/*' -print0 2>/dev/null | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1; }

# once runs a command unless the hash of its inputs is the one it last ran with.
once() {
  local name=$1 hash=$2
  shift 2
  [ "$(cat "bin/$name.hash" 2>/dev/null)" = "$hash" ] && return 0
  "$@" || return 1
  echo "$hash" >"bin/$name.hash"
}

npm_ci() { say "Installing the interface's packages …"; (cd web && npm ci --no-audit --no-fund --loglevel=error >&2); }
web_build() { say "Building the interface …"; (cd web && npx --no-install vite build --logLevel warn >&2); }
go_build() { say "Building Arvelt …"; go build -tags nomsgpack -o bin/arvelt ./cmd/arvelt >&2; }

need_npm() {
  [ -d web/node_modules ] || rm -f bin/npm.hash
  once npm "$(sum web/package.json web/package-lock.json)" npm_ci || die "npm ci failed."
}

build() {
  mkdir -p bin
  need_npm
  [ -f web/dist/index.html ] || rm -f bin/web.hash
  once web "$(sum web/src web/index.html web/public web/package-lock.json web/vite.config.ts)" web_build || die "The interface could not be built."
  [ -x bin/arvelt ] || rm -f bin/go.hash
  once go "$( (cat bin/web.hash; find api cmd core demo paper picture standin store web go.mod go.sum -name node_modules -prune -o -type f \( -name '*.go' -o -name '*.csv' -o -name '*.sql' -o -name '*.ttf' -o -name 'go.*' -o -name '*.yaml' \) -print0 | sort -z | xargs -0 sha256sum) | sha256sum | cut -d' ' -f1)" go_build || die "Arvelt could not be built."
}
