#!/usr/bin/env bash
# Start to first page, binary size and resident memory, of bin/kolvan.
set -euo pipefail
address=127.0.0.1:8791
start=$(date +%s%N)
bin/kolvan demo --addr $address >/dev/null &
kolvan=$!
trap 'kill $kolvan' EXIT
until curl -sf -o /dev/null http://$address/; do sleep 0.005; done
echo "start to first page: $((($(date +%s%N) - start) / 1000000)) ms"
for rig in 1 2 3 4 5; do
  for station in brief survey route power fit assembly proof ledger sheet; do curl -sf -o /dev/null http://$address/rigs/$rig/$station; done
done
echo "binary: $(($(stat -c %s bin/kolvan) / 1048576)) MiB"
echo "resident: $(($(awk '/VmRSS/ {print $2}' /proc/$kolvan/status) / 1024)) MiB"
