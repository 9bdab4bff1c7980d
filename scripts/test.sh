#!/usr/bin/env bash
# npm test: installs what tests need and runs everything; ends with one line "N passed, N failed". With names of steps, runs only those.
# AUK_ONLY="words" runs only the browser tests whose name has them; AUK_RESULTS=folder keeps their traces.
set -u
. "$(dirname "$0")/lib.sh"
need_node
need_debian mariadbd=mariadb-server mariadb-admin=mariadb-client chromium-headless-shell=chromium-headless-shell pdftoppm=poppler-utils
need_packages

WANTED=" ${*:-types lint layers unit server checks browser} "
RUN="$(mktemp -d "${TMPDIR:-/tmp}/auk-test.XXXXXX")"
PASSED=0
FAILED=0
: >"$RUN/failures"
stop_all() {
  # Asked twice, as by a key and by npm, it still stops all of it.
  trap '' INT TERM HUP
  trap - EXIT
  stop_process "${SERVER_PID:-}"
  stop_process "${OWN_PID:-}"
  stop_process "${STANDINS_PID:-}"
  stop_process "${DB_PID:-}"
  rm -rf "$RUN"
}
trap 'stop_all; exit 130' INT TERM HUP
trap stop_all EXIT

# step NAME COMMAND...: one check that passes or fails as a whole.
step() {
  local name="$1"
  shift
  case "$WANTED" in *" $name "*) ;; *) return ;; esac
  echo "== $name"
  if "$@"; then PASSED=$((PASSED + 1)); else FAILED=$((FAILED + 1)); echo "$name: see above, under == $name" >>"$RUN/failures"; fi
}

# counted NAME REPORT COMMAND...: a runner that writes a JSON report; each test counts.
counted() {
  local name="$1" report="$2" before=$FAILED
  shift 2
  case "$WANTED" in *" $name "*) ;; *) return ;; esac
  echo "== $name"
  "$@"
  local code=$?
  local counts
  counts=$(node scripts/count-tests.mjs "$report" "$RUN/failures") || counts="0 1"
  PASSED=$((PASSED + ${counts% *}))
  FAILED=$((FAILED + ${counts#* }))
  [ "$code" != 0 ] && [ "$FAILED" = "$before" ] && FAILED=$((FAILED + 1)) && echo "$name: all passed, but the runner ended with $code; see above, under == $name" >>"$RUN/failures"
  return 0
}

vitest() { node node_modules/vitest/vitest.mjs run --project "$1" --reporter=default --reporter=json --outputFile.json="$RUN/$1.json"; }
# ready PID LOG: waits until a server says so, a minute and a half with the demo on a busy machine; shows its log when it dies before.
ready() {
  for _ in $(seq 1 6000); do grep -q '^ready' "$2" && return; kill -0 "$1" 2>/dev/null || break; sleep 0.1; done
  cat "$2"
}
lint() { bash scripts/biome.sh ci . && node scripts/check-front.mjs; }
whole() { AUK_DB_NAME=auk_browser bash scripts/check-data.sh; }

step types node node_modules/typescript7/bin/tsc -b
step lint lint
step layers node scripts/check-layers.mjs
counted unit "$RUN/unit.json" vitest unit

case "$WANTED" in *" server "* | *" browser "*)
  # Tests lose nothing when the machine loses power, so commits need not wait for its disk.
  start_database "$RUN/db" --innodb-flush-log-at-trx-commit=2
  AUK_SECRET="$(house_secret "$RUN")"
  export AUK_SECRET AUK_TEST_DB_PORT="$DB_PORT" AUK_DB_PORT="$DB_PORT" AUK_LOG=error
  ;;
esac
mkdir "$RUN/statements"
export AUK_STATEMENTS="$RUN/statements"
counted server "$RUN/server.json" vitest server
unset AUK_STATEMENTS
case "$WANTED" in *" server "*) step server node scripts/check-statements.mjs "$RUN/statements" ;; esac
counted checks "$RUN/checks.json" vitest checks

case "$WANTED" in *" browser "*)
  node scripts/build.mjs || { FAILED=$((FAILED + 1)); echo "build: see above" >>"$RUN/failures"; }
  # Two servers: the demo, and a house of one's own that is still to be opened.
  for house in browser own; do
    sql "$RUN/db" "CREATE DATABASE auk_$house CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci"
  done
  export AUK_DB_NAME=auk_browser AUK_PORT="$(free_port)" AUK_STANDINS_PORT="$(free_port)" AUK_STANDINS_SCALE_PORT="$(free_port)" AUK_STANDINS_MAIL_PORT="$(free_port)" AUK_STANDINS_FOLDER="$RUN/standins" AUK_DEMO=yes AUK_CHECK_ANSWERS=yes AUK_WEB="$PWD/web/dist" AUK_DEMO_PAST=60
  export AUK_OWN_PORT="$(free_port)" AUK_OWN_LOG="$RUN/own.log"
  node standins/dist/main.js >"$RUN/standins.log" 2>&1 &
  STANDINS_PID=$!
  node --enable-source-maps server/dist/main.js >"$RUN/server.log" 2>&1 &
  SERVER_PID=$!
  AUK_DB_NAME=auk_own AUK_PORT="$AUK_OWN_PORT" AUK_DEMO=no node --enable-source-maps server/dist/main.js >"$AUK_OWN_LOG" 2>&1 &
  OWN_PID=$!
  ready "$SERVER_PID" "$RUN/server.log"
  ready "$OWN_PID" "$AUK_OWN_LOG"
  ;;
esac
counted browser "$RUN/browser.json" env PLAYWRIGHT_JSON_OUTPUT_NAME="$RUN/browser.json" node node_modules/@playwright/test/cli.js test --config e2e/playwright.config.ts --output "${AUK_RESULTS:-$RUN/results}" ${AUK_ONLY:+-g "$AUK_ONLY"}
step browser whole
grep '"level":50' "$RUN/server.log" 2>/dev/null | head -5

# What failed stands at the end, where it is looked for.
[ "$FAILED" = 0 ] || { echo "== failed"; cat "$RUN/failures"; }
stop_all
echo "$PASSED passed, $FAILED failed"
[ "$FAILED" = 0 ]
