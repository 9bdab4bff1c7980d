#!/usr/bin/env bash
# npm run bench: a database and a server of its own with the demo loaded, then the benchmarks. Options go to bench/run.mjs.
set -u
. "$(dirname "$0")/lib.sh"
need_node
need_debian mariadbd=mariadb-server mariadb-admin=mariadb-client chromium-headless-shell=chromium-headless-shell
need_packages >&2
node scripts/build.mjs >&2 || fail "The build failed; its messages stand above."
RUN="$(mktemp -d "${TMPDIR:-/tmp}/auk-bench.XXXXXX")"
stop_all() {
  # Asked twice, as by a key and by npm, it still stops all of it.
  trap '' INT TERM HUP
  trap - EXIT
  stop_process "${SERVER_PID:-}"
  stop_process "${STANDINS_PID:-}"
  stop_process "${DB_PID:-}"
  rm -rf "$RUN"
}
trap 'stop_all; exit 130' INT TERM HUP
trap stop_all EXIT
start_database "$RUN/db"
sql "$RUN/db" "CREATE DATABASE auk_bench CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci"
AUK_SECRET="$(house_secret "$RUN")"
export AUK_SECRET AUK_DB_PORT="$DB_PORT" AUK_DB_NAME=auk_bench AUK_PORT="$(free_port)" AUK_STANDINS_PORT="$(free_port)" AUK_STANDINS_SCALE_PORT="$(free_port)" AUK_STANDINS_MAIL_PORT="$(free_port)" AUK_STANDINS_FOLDER="$RUN/standins" AUK_DEMO=yes AUK_LOOPBACK=yes AUK_LOG=error AUK_WEB="$PWD/web/dist"
node standins/dist/main.js >"$RUN/standins.log" 2>&1 &
STANDINS_PID=$!
node server/dist/whole/main.js >"$RUN/server.log" 2>&1 &
SERVER_PID=$!
for _ in $(seq 1 6000); do grep -q '^ready' "$RUN/server.log" && break; kill -0 "$SERVER_PID" 2>/dev/null || break; sleep 0.1; done
grep -q '^ready' "$RUN/server.log" || { cat "$RUN/server.log" >&2; exit 1; }
node bench/run.mjs "$@"
