#!/usr/bin/env bash
# All figures of the README, each by the command that stands beside it, with yardsticks of the
# same minutes: what this machine hashes, and how long its disk takes to keep.
set -euo pipefail
cd "$(dirname "$0")/.."
yardsticks() { go test -run '^$' -bench . -benchtime 300ms ./internal/yardstick | grep ^Benchmark; }
echo "== yardsticks"
yardsticks
awk -F'`' '/^## Figures/ {on = 1; next} /^## / {on = 0} on && NF > 2 {print $(NF - 1)}' README.md | sort -u | while read -r command; do
  echo "== $command"
  bash -c "$command" 2>&1 | grep -E '^(Benchmark|start|binary|resident|    [a-z_]+\.go)' || true
done
echo "== yardsticks"
yardsticks
