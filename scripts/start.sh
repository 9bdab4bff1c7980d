#!/usr/bin/env bash
# npm start: installs what is missing, builds, starts a private database, the stand-ins and the server. Ctrl-C stops all of it.
set -u
. "$(dirname "$0")/lib.sh"
PORT="${PORT:-7350}"
FRESH=no
DEMO=yes
LAN=
while [ $# -gt 0 ]; do
  case "$1" in
    --fresh) FRESH=yes ;;
    --own) DEMO=no ;;
    --lan) LAN=yes ;;
    --cert) shift; export AUK_TLS_CERT="${1:-}" ;;
    --key) shift; export AUK_TLS_KEY="${1:-}" ;;
    *) fail "npm start knows --fresh (begin anew), --own (a house of your own, without the demo) and --lan (over TLS on the local network; with --cert FILE --key FILE for a certificate of your own), not $1." ;;
  esac
  shift
done
[ -n "${AUK_TLS_CERT:-}${AUK_TLS_KEY:-}" ] && { [ -n "${AUK_TLS_CERT:-}" ] && [ -n "${AUK_TLS_KEY:-}" ] && [ -n "$LAN" ] || fail "A certificate of your own needs --lan, --cert FILE and --key FILE together."; }

need_node
node -e 'const s = require("net").createServer().once("error", () => process.exit(1)).listen(+process.argv[1], "127.0.0.1", () => s.close())' "$PORT" \
  || fail "Port $PORT is taken by another program. Stop it, or choose another port: PORT=7351 npm start"
need_debian mariadbd=mariadb-server mariadb-admin=mariadb-client
need_packages
node scripts/build.mjs || fail "The build failed; its messages stand above."

DATA="${AUK_DATA:-.data}/start"
[ "$FRESH" = yes ] && [ -f "$DATA/m.pid" ] && kill -0 "$(cat "$DATA/m.pid")" 2>/dev/null && fail "Auk is running on this data folder. Stop it first, then begin anew."
[ "$FRESH" = yes ] && rm -rf "$DATA"
start_database "$DATA"
stop_all() {
  # Asked twice, as by a key and by npm, it still stops all of it.
  trap '' INT TERM HUP
  trap - EXIT
  stop_process "${SERVER_PID:-}"
  stop_process "${STANDINS_PID:-}"
  stop_process "${DB_PID:-}"
}
trap 'stop_all; exit 0' INT TERM HUP
trap stop_all EXIT
sql "$DATA" "CREATE DATABASE IF NOT EXISTS auk CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci" || fail "The database does not take commands; see $DATA/error.log."

export AUK_DB_PORT="$DB_PORT" AUK_DB_NAME=auk AUK_PORT="$PORT" AUK_WEB="$PWD/web/dist" AUK_STANDINS_PORT="$(free_port)" AUK_STANDINS_SCALE_PORT="$(free_port)" AUK_STANDINS_MAIL_PORT="$(free_port)" AUK_STANDINS_FOLDER="$DATA/standins" AUK_LOG="${AUK_LOG:-warn}"
AUK_SECRET="$(house_secret "$DATA")"
export AUK_SECRET
echo "$DB_PORT" >"$DATA/db.port"
# Stand-ins of the demo listen on this machine; a house of one's own asks nothing of it, unless it is told to.
export AUK_LOOPBACK="${AUK_LOOPBACK:-$DEMO}"
export AUK_DEMO="$DEMO" AUK_LAN="$LAN" AUK_TLS_FOLDER="$DATA/tls"
[ "$DEMO" = yes ] && { setsid node standins/dist/main.js >"$DATA/standins.log" 2>&1 & STANDINS_PID=$!; }
LOG="$DATA/server.log"
: >"$LOG"
setsid node server/dist/whole/main.js >>"$LOG" 2>&1 &
SERVER_PID=$!
# The server's own lines are shown until it is ready; then the address and the badges. Later lines stay in the log.
shown=0
until grep -q '^ready$' "$LOG" || ! kill -0 "$SERVER_PID" 2>/dev/null; do
  sleep 0.2
  lines=$(wc -l <"$LOG")
  [ "$lines" -gt "$shown" ] && sed -n "$((shown + 1)),${lines}p" "$LOG" | grep -v '^ready$'
  shown=$lines
done
kill -0 "$SERVER_PID" 2>/dev/null || fail "The server stopped at its start; its message stands above."
echo
echo "Auk is open at http${LAN:+s}://localhost:$PORT"
[ "$DEMO" = yes ] && cat <<TXT
Demo badges, all with PIN 2468:
  AB-1001 Ines Maddow, lead      AB-1002 Tomas Brandt, packer   AB-1003 Wren Okoye, picker
  AB-1004 Odile Marsh, office    AB-1005 Abel Quist, admin      AB-1006 Mika Solberg, packer
TXT
echo "Ctrl-C stops everything. The log is $LOG."
wait "$SERVER_PID"
