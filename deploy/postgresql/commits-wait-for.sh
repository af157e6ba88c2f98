#!/bin/sh
# Says which standbys a commit waits for, on the primary: a sign-up is acknowledged once one of them has it on its disk too.
#   sh commits-wait-for.sh <data folder> <name>,<name>
#   sh commits-wait-for.sh <data folder>          none: to go on alone while no standby is there
# While it waits for standbys and none is there, nothing is acknowledged.
. "$(dirname "$0")/common.sh"
data=$1 names=${2:-}
if [ -n "$names" ]; then
  for try in $(seq 600); do
    streaming=$(ask "$data" "SELECT count(*) FROM pg_stat_replication WHERE state = 'streaming' AND application_name = ANY (string_to_array('$names', ','))")
    [ "$streaming" = 0 ] || break
    [ "$try" != 600 ] || fail "None of $names follows this server."
    sleep 0.1
  done
  ask "$data" "ALTER SYSTEM SET synchronous_standby_names = 'ANY 1 ($names)'"
else
  ask "$data" "ALTER SYSTEM RESET synchronous_standby_names"
fi
ask "$data" "SELECT pg_reload_conf()" > /dev/null
