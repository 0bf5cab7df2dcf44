#!/usr/bin/env bash
# Runs Hafen for the browser tests, as bin/demo does: serve.sh PORT DATA_FOLDER. Writes DATA_FOLDER/ready when it answers.
set -u
# shellcheck source=../../bin/lib.sh
. "$(dirname "$0")/../../bin/lib.sh"
port=$1
data=$2
trap 'end_groups; exit 0' INT TERM EXIT
: >"$data/hafen.sqlite"
php artisan migrate --force --quiet || exit 1
php artisan hafen:demo || exit 1
start_servers "$port" "$data"
wait_for "http://127.0.0.1:$port/api/sessions" || exit 1
: >"$data/ready"
while [ -n "$(jobs -p)" ]; do wait; done
