#!/usr/bin/env bash
# npm run check:data: recomputes everything derived from the ledger and the events of the running demo, and lists every difference.
set -u
. "$(dirname "$0")/lib.sh"
need_node
DATA="${AUK_DATA:-.data}/start"
if [ -z "${AUK_DB_PORT:-}" ]; then
  [ -f "$DATA/db.port" ] && [ -f "$DATA/m.pid" ] && kill -0 "$(cat "$DATA/m.pid")" 2>/dev/null || fail "Auk is not running, so there is no data to check. Run npm start in another window first."
  AUK_DB_PORT="$(cat "$DATA/db.port")"
fi
export AUK_DB_PORT AUK_DB_NAME="${AUK_DB_NAME:-auk}"
exec node server/dist/checkDataMain.js
