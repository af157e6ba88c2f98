#!/bin/sh
# Makes the database of Ask Box and starts its server.
#   sh primary.sh <data folder> <port> <archive folder>
# By the environment: ASKBOX_DB_PASSWORD (of the receivers), REPLICATION_PASSWORD (of standbys and backups),
# NETWORK (where both are, such as 10.0.0.0/24; this computer alone when unset), LISTEN (addresses, such as 10.0.0.5).
. "$(dirname "$0")/common.sh"
data=$1 port=$2 archive=$3
: "${ASKBOX_DB_PASSWORD:?}" "${REPLICATION_PASSWORD:?}"
network=${NETWORK:-127.0.0.1/32}

mkdir -p "$archive"
chmod 700 "$archive"
"$PGBIN/initdb" -D "$data" -U postgres --auth-local="${LOCAL_AUTH:-peer}" --auth-host=scram-sha-256 --locale=C --encoding=UTF8 > /dev/null
local_settings "$data" "$port"
cat > "$data/askbox.conf" <<END
password_encryption = 'scram-sha-256'
max_connections = 200
# A commit is answered once it is on this disk, and on that of a standby where synchronous_standby_names names any.
synchronous_commit = on
wal_level = replica
max_wal_senders = 10
hot_standby = on
# Kept for a standby that was away for a while.
wal_keep_size = '1GB'
# Every change is kept in files, from which any moment since a backup can be had again: see restore.sh.
archive_mode = on
archive_command = 'test -f "$archive/%f" || (cp "%p" "$archive/%f.part" && sync "$archive/%f.part" && mv "$archive/%f.part" "$archive/%f")'
archive_timeout = 60
END
cat >> "$data/postgresql.conf" <<END
include 'askbox.conf'
include 'askbox-local.conf'
END
cat >> "$data/pg_hba.conf" <<END
host askbox askbox $network scram-sha-256
host replication replicator $network scram-sha-256
END
start "$data"
ask "$data" "CREATE ROLE askbox LOGIN PASSWORD '$ASKBOX_DB_PASSWORD'"
ask "$data" "CREATE ROLE replicator LOGIN REPLICATION PASSWORD '$REPLICATION_PASSWORD'"
ask "$data" "CREATE DATABASE askbox OWNER askbox TEMPLATE template0 LOCALE 'C' ENCODING 'UTF8'"
echo "DATABASE_URL=postgres://askbox:…@<this computer>:$port/askbox"
