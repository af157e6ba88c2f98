# What the scripts beside it have in common. All of them run as the user of the database server (Debian's is “postgres”).
set -eu
if [ -z "${PGBIN:-}" ]; then
  # Debian keeps the server's programs by version.
  PGBIN=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -t/ -k5 -n | tail -n 1)
fi
[ -x "$PGBIN/postgres" ] || { echo "No PostgreSQL found. Set PGBIN to the folder of its programs." >&2; exit 1; }

fail() {
  echo "$*" >&2
  exit 1
}

# Whoever looks after the server, by its own socket, which lies beside its data: a copy of the data takes no locks along.
ask() {
  "$PGBIN/psql" -X -q -t -A -v ON_ERROR_STOP=1 -h "$1.socket" -p "$(port_of "$1")" -U postgres -d postgres -c "$2"
}

port_of() {
  sed -n 's/^port = //p' "$1/askbox-local.conf"
}

# What is this computer's own: not what a standby copies from its primary.
local_settings() {
  mkdir -p "$1.socket"
  chmod 700 "$1.socket"
  cat > "$1/askbox-local.conf" <<END
port = $2
listen_addresses = '${LISTEN:-127.0.0.1}'
unix_socket_directories = '$1.socket'
${PG_MORE:-}
END
}

start() {
  "$PGBIN/pg_ctl" start -D "$1" -l "$1.log" -w -s -t 60 || fail "It does not start: see $1.log"
}

# A setting that says which standbys a commit waits for, written where ALTER SYSTEM would write it; empty for none.
waits_for() {
  sed -i '/^synchronous_standby_names/d' "$1/postgresql.auto.conf"
  [ -z "$2" ] || echo "synchronous_standby_names = '$2'" >> "$1/postgresql.auto.conf"
}
