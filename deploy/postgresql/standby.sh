#!/bin/sh
# Makes a standby of the server at a host and port, and starts it. Also for a primary of before, once another was promoted:
# what lay in its folder is moved aside.
#   sh standby.sh <data folder> <port> <name> <host of the primary> <its port>
# By the environment: REPLICATION_PASSWORD, LISTEN. Then, on the primary: sh commits-wait-for.sh <data folder> <name>
. "$(dirname "$0")/common.sh"
data=$1 port=$2 name=$3 host=$4 primary=$5
: "${REPLICATION_PASSWORD:?}"

if [ -e "$data" ]; then
  "$PGBIN/pg_ctl" stop -D "$data" -m fast -s 2> /dev/null || true
  mv "$data" "$data.before-$(date +%Y%m%dT%H%M%S)-$$"
fi
"$PGBIN/pg_basebackup" -D "$data" -R -X stream -c fast \
  -d "host=$host port=$primary user=replicator password=$REPLICATION_PASSWORD application_name=$name"
chmod 700 "$data"
local_settings "$data" "$port"
# Whom its primary waits for is not whom it waits for, should it be promoted.
waits_for "$data" ''
start "$data"
