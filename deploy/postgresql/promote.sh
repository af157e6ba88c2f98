#!/bin/sh
# Makes a standby the primary, because the primary is gone. Receivers find it by the hosts of DATABASE_URL.
#   sh promote.sh <data folder>
# The primary of before must not come back as one: make it a standby of this one (standby.sh). Should it start all the same, it
# acknowledges nothing, because the standby that its commits wait for is gone.
. "$(dirname "$0")/common.sh"
data=$1
waits_for "$data" ''
"$PGBIN/pg_ctl" promote -D "$data" -w -s -t 60 || fail "It was not promoted: see $data.log"
