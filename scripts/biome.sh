#!/usr/bin/env bash
# Runs Biome's own binary for this machine; its wrapper package names binaries that not every registry holds, which breaks npm ci.
cd "$(dirname "$0")/.."
exec node_modules/@biomejs/cli-linux-*/biome "$@"
