#!/bin/sh
# Copies the whole server into a folder that is not there yet, while sign-ups go on, and checks the copy.
#   sh backup.sh <host> <port> <folder>
# By the environment: REPLICATION_PASSWORD. With the archive, any moment since can be had again.
. "$(dirname "$0")/common.sh"
host=$1 port=$2 folder=$3
: "${REPLICATION_PASSWORD:?}"
"$PGBIN/pg_basebackup" -D "$folder" -X stream -c fast \
  -d "host=$host port=$port user=replicator password=$REPLICATION_PASSWORD application_name=askbox-backup"
"$PGBIN/pg_verifybackup" "$folder" > /dev/null
chmod 700 "$folder"
