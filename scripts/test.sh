#!/usr/bin/env bash
# npm test: installs what tests need and runs everything; ends with one line "N passed, N failed". With names of steps, runs only those.
# AUK_ONLY="words" runs only the browser tests whose name has them; AUK_RESULTS=folder keeps their traces.
set -u
. "$(dirname "$0")/lib.sh"
need_node
need_debian mariadbd=mariadb-server mariadb-admin=mariadb-client mariadb-dump=mariadb-client chromium-headless-shell=chromium-headless-shell pdftoppm=poppler-utils
need_packages

WANTED=" ${*:-types lint layers unit server checks browser} "
# Tests make about a hundred databases and lose nothing when the machine does: where there is room, all of it is kept in memory.
FOLDER="${TMPDIR:-/tmp}"
[ -z "${TMPDIR:-}" ] && room_in_memory 4 && FOLDER=/dev/shm
RUN="$(mktemp -d "$FOLDER/auk-test.XXXXXX")"
PASSED=0
FAILED=0
SERVED=()
: >"$RUN/failures"
stop_all() {
  # Asked twice, as by a key and by npm, it still stops all of it.
  trap '' INT TERM HUP
  trap - EXIT
  for pid in "${SERVED[@]}"; do stop_process "$pid"; done
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
# serve NAME PROGRAM: starts a program of a house and keeps what it says.
serve() {
  node "$2" >"$RUN/$1.log" 2>&1 &
  SERVED+=($!)
}
# open_house NAME: a database and a server; HOUSE.env tells journeys where they are.
open_house() {
  sql "$RUN/db" "CREATE DATABASE auk_$1 CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci"
  export AUK_DB_NAME="auk_$1" AUK_PORT="$(free_port)"
  serve "$1" server/dist/whole/main.js
}
# demo_house NAME: the demo company with stand-ins of its own.
demo_house() {
  export AUK_DEMO=yes AUK_LOOPBACK=yes AUK_STANDINS_PORT="$(free_port)" AUK_STANDINS_SCALE_PORT="$(free_port)" AUK_STANDINS_MAIL_PORT="$(free_port)" AUK_STANDINS_FOLDER="$RUN/$1-standins"
  serve "$1-standins" standins/dist/main.js
  open_house "$1"
  export -p | grep ' AUK_' >"$RUN/$1.env"
}
# ready NAME: waits until a server says so, a minute and a half with the demo on a busy machine; shows its log when it dies before.
ready() {
  for _ in $(seq 1 6000); do
    grep -q '^ready' "$RUN/$1.log" && return
    grep -q 'Error' "$RUN/$1.log" && break
    sleep 0.1
  done
  cat "$RUN/$1.log"
}
# journeys NAME PROJECT...: becomes the browser tests of some projects, in a house.
journeys() {
  local name="$1" projects=()
  shift
  for p in "$@"; do projects+=(--project "$p"); done
  . "$RUN/$name.env"
  export PLAYWRIGHT_JSON_OUTPUT_NAME="$RUN/browser-$name.json"
  exec node node_modules/@playwright/test/cli.js test --config e2e/playwright.config.ts --output "${AUK_RESULTS:-$RUN/results}/$name" "${projects[@]}" ${AUK_ONLY:+-g "$AUK_ONLY" --pass-with-no-tests}
}
in_house_one() { (journeys one one looking); }
# told FILE CODE: shows what was said in the background, and ends as it did.
told() {
  cat "$1"
  return "$2"
}
lint() { bash scripts/biome.sh ci . && node scripts/check-front.mjs; }
whole() { AUK_DB_NAME="auk_$1" bash scripts/check-data.sh; }

step types node node_modules/typescript7/bin/tsc -b
step lint lint
step layers node scripts/check-layers.mjs
counted unit "$RUN/unit.json" vitest unit

case "$WANTED" in *" server "* | *" browser "*)
  node scripts/build.mjs || { FAILED=$((FAILED + 1)); echo "build: see above" >>"$RUN/failures"; }
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
  # A house of one's own that is still to be opened, and the demo twice: journeys that act in one of them do not meet those of the other.
  export AUK_CHECK_ANSWERS=yes AUK_WEB="$PWD/web/dist" AUK_DEMO_PAST=60 AUK_DEMO=no AUK_LOOPBACK=no
  open_house own
  export AUK_OWN_PORT="$AUK_PORT" AUK_OWN_LOG="$RUN/own.log"
  demo_house one
  demo_house two
  for house in own one two; do ready "$house"; done
  journeys two two >"$RUN/two.out" 2>&1 &
  TWO_PID=$!
  SERVED+=("$TWO_PID")
  ;;
esac
counted browser "$RUN/browser-one.json" in_house_one
case "$WANTED" in *" browser "*)
  wait "$TWO_PID"
  TWO=$?
  ;;
esac
counted browser "$RUN/browser-two.json" told "$RUN/two.out" "${TWO:-0}"
step browser whole one
step browser whole two
grep -h '"level":50' "$RUN"/{one,two}.log 2>/dev/null | head -5

# What failed stands at the end, where it is looked for.
[ "$FAILED" = 0 ] || { echo "== failed"; cat "$RUN/failures"; }
stop_all
echo "$PASSED passed, $FAILED failed"
[ "$FAILED" = 0 ]
