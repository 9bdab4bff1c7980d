# Shared by the scripts: what must be on the machine, and a private MariaDB on loopback.
cd "$(dirname "${BASH_SOURCE[0]}")/.."
export PATH="$PATH:/usr/sbin:/sbin"

fail() { echo "$1" >&2; exit 1; }

need_node() {
  command -v node >/dev/null || fail "Auk needs Node 20.19 or newer, and no node was found. Install Node 20 and start again."
  node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' \
    || fail "Auk needs Node 20.19 or newer; this is $(node -v). Install Node 20 and start again."
}

# need_debian COMMAND=PACKAGE ...: installs the packages whose command is missing, or says how.
need_debian() {
  local missing=()
  for pair in "$@"; do command -v "${pair%%=*}" >/dev/null || missing+=("${pair##*=}"); done
  [ ${#missing[@]} -eq 0 ] && return
  local run="apt-get install --no-install-recommends ${missing[*]}"
  if [ "$(id -u)" != 0 ]; then
    sudo -n true 2>/dev/null || fail "Some Debian packages are missing. Run: sudo $run"
    SUDO=sudo
  fi
  command -v apt-get >/dev/null || fail "Auk needs ${missing[*]}, and this machine has no apt-get to install them. Install them and start again."
  echo "Installing ${missing[*]} ..."
  ${SUDO:-} apt-get update -qq && DEBIAN_FRONTEND=noninteractive ${SUDO:-} apt-get -o DPkg::Lock::Timeout=300 install -y -qq --no-install-recommends "${missing[@]}" >/dev/null \
    || fail "Installing ${missing[*]} failed. Run it by hand: $run"
}

need_packages() {
  [ -f node_modules/.auk-lock ] && cmp -s package-lock.json node_modules/.auk-lock && return
  echo "Installing npm packages ..."
  npm ci --no-progress --loglevel=error || fail "npm ci failed; its message stands above. Correct that and start again."
  cp package-lock.json node_modules/.auk-lock
}

# house_secret FOLDER: the secret by which keys are sealed, made once and readable by nobody else.
house_secret() {
  [ -f "$1/secret" ] || (umask 077 && node -e 'console.log(require("crypto").randomBytes(32).toString("hex"))' >"$1/secret")
  cat "$1/secret"
}

# free_port: one below those that the system gives away by itself, so that it is still free when a slow start comes to it; and none of
# those that were given lately, which may not be listened at yet.
free_port() {
  local given="${TMPDIR:-/tmp}/auk-ports.$(id -u)"
  AUK_GIVEN="$given" node -e '
    const { createServer } = require("net");
    const { existsSync, readFileSync, writeFileSync } = require("fs");
    const file = process.env.AUK_GIVEN;
    const given = existsSync(file) ? readFileSync(file, "utf8").split("\n").filter(Boolean).slice(-500) : [];
    const look = () => {
      const port = 20000 + Math.floor(Math.random() * 12000);
      if (given.includes(String(port))) return look();
      const s = createServer().once("error", look).listen(port, "127.0.0.1", () => s.close(() => {
        writeFileSync(file, [...given, port].join("\n") + "\n");
        console.log(port);
      }));
    };
    look();'
}

# room_in_memory GIGABYTES: whether so much can be kept in /dev/shm with as much memory left beside it.
room_in_memory() {
  local kb=$(($1 * 1048576)) shm free limit
  shm="$(df -Pk /dev/shm 2>/dev/null | awk 'NR == 2 { print $4 }')"
  free="$(awk '/^MemAvailable/ { print $2 }' /proc/meminfo)"
  limit="$(cat /sys/fs/cgroup/memory.max 2>/dev/null)"
  [ -w /dev/shm ] && [ "${shm:-0}" -ge "$kb" ] && [ "${free:-0}" -ge $((2 * kb)) ] && case "$limit" in '' | max) ;; *) [ "$limit" -ge $((3 * kb * 1024)) ] ;; esac
}

# start_database FOLDER [FLAG...]: a private MariaDB there, on a free port, with further flags; sets DB_PORT and DB_PID.
start_database() {
  local at="$1" as=()
  shift
  [ "$(id -u)" = 0 ] && as=(--user=root)
  mkdir -p "$at" 2>/dev/null && [ -w "$at" ] || fail "The folder $at cannot be written. Free some space or correct its rights, then start again."
  at="$(cd "$at" && pwd)"
  [ ${#at} -le 95 ] || fail "The path $at is too long for a database socket (95 characters at most). Move the project to a shorter path."
  if [ -f "$at/m.pid" ] && kill -0 "$(cat "$at/m.pid")" 2>/dev/null; then
    fail "The database folder $at is in use by process $(cat "$at/m.pid"). Stop the other Auk first."
  fi
  if [ ! -f "$at/.ready" ]; then
    rm -rf "$at/data"
    mariadb-install-db --no-defaults "${as[@]}" --datadir="$at/data" --auth-root-authentication-method=normal --skip-test-db --skip-name-resolve --innodb-log-file-size=16M >"$at/install.log" 2>&1 \
      || fail "The database could not be made in $at; see $at/install.log."
    touch "$at/.ready"
  fi
  # A database throws away what lies in its folder for the moment when it starts: it must be no other one's.
  mkdir -p "$at/tmp"
  DB_PORT=$(free_port)
  setsid mariadbd --no-defaults "${as[@]}" --datadir="$at/data" --socket="$at/m.sock" --pid-file="$at/m.pid" --tmpdir="$at/tmp" --bind-address=127.0.0.1 --port="$DB_PORT" --skip-name-resolve \
    --character-set-server=utf8mb4 --collation-server=utf8mb4_unicode_520_ci --default-time-zone=+00:00 --max-allowed-packet=64M --innodb-buffer-pool-size=512M --innodb-log-file-size=256M \
    --log-error="$at/error.log" "$@" >/dev/null 2>&1 &
  DB_PID=$!
  for _ in $(seq 1 300); do
    mariadb-admin --no-defaults --socket="$at/m.sock" -uroot ping >/dev/null 2>&1 && return
    kill -0 "$DB_PID" 2>/dev/null || fail "The database did not start; see $at/error.log."
    sleep 0.1
  done
  fail "The database did not answer within 30 seconds; see $at/error.log."
}

sql() { mariadb --no-defaults --socket="$1/m.sock" -uroot -e "$2"; }

stop_process() { [ -n "${1:-}" ] && kill -TERM "$1" 2>/dev/null && wait "$1" 2>/dev/null; return 0; }
