port=$(free_port); start=$(date +%s.%N)
out/bin/yardrelay --urls "http://127.0.0.1:$port" --state "$work/state" --log Error >/dev/null 2>&1 & pids+=($!)
until curl -fs "http://127.0.0.1:$port/health/ready" >/dev/null 2>&1; do sleep 0.02; done
ready=$(echo "$(date +%s.%N) $start" | awk '{printf "%.2f", $1-$2}')
sleep 5
say "service: ready after $ready s (within 3, migrations included), idle with $(awk '/VmRSS/ {printf "%d", $2/1000}' "/proc/${pids[-1]}/status") MB (under 250)"

