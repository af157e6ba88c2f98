#!/bin/sh
# Starts a server as everything was at a moment, from a copy and the archive.
#   sh restore.sh <copy> <archive folder> <new data folder> <port> [<moment, such as “2026-11-30 14:05:00+00”>]
# Without a moment: as of the newest change that the archive has. Look at it before receivers use it.
. "$(dirname "$0")/common.sh"
copy=$1 archive=$2 data=$3 port=$4 moment=${5:-}
[ ! -e "$data" ] || fail "$data is there already."
cp -a "$copy" "$data"
local_settings "$data" "$port"
waits_for "$data" ''
{
  # A name of the archive's own for what is written from now on.
  echo "archive_mode = off"
  echo "restore_command = 'cp \"$archive/%f\" \"%p\"'"
  echo "recovery_target_action = 'promote'"
  [ -z "$moment" ] || echo "recovery_target_time = '$moment'"
} >> "$data/askbox-local.conf"
touch "$data/recovery.signal"
start "$data"
for try in $(seq 600); do
  [ "$(ask "$data" 'SELECT pg_is_in_recovery()')" != f ] || exit 0
  sleep 0.1
done
fail "It does not come to an end: see $data.log"
