# All checks, against a database and a data folder of their own. The last line is the plain count.

PASSED=0
FAILED=0

# Checks that don't touch each other, side by side; told in order. Each is "name|npm script".
checks_together() {
  local logs one name pids=()
  logs=$(mktemp -d)
  for one in "$@"; do
    npm run --silent "${one#*|}" >"$logs/${one#*|}" 2>&1 &
    pids+=($!)
  done
  for one in "$@"; do
    name=${one%|*}
    say "== $name"
    if wait "${pids[0]}"; then PASSED=$((PASSED + 1)); else FAILED=$((FAILED + 1)); say "!! $name failed"; fi
    cat "$logs/${one#*|}"
    pids=("${pids[@]:1}")
  done
  rm -rf "$logs"
}

# Adds the counts that a JSON report holds.
count_report() {
  local counts
  counts=$(node -e '
    const report = JSON.parse(require("fs").readFileSync(process.argv[1], "utf8"));
    const passed = report.numPassedTests ?? report.stats.expected;
    const failed = report.numPassedTests === undefined ? report.stats.unexpected + report.stats.flaky + (report.errors ?? []).length : report.numFailedTests + report.numRuntimeErrorTestSuites;
    console.log(passed, failed);' "$1" 2>/dev/null) || counts="0 1"
  add_counts "$counts"
}

# Adds "passed failed".
add_counts() {
  PASSED=$((PASSED + ${1% *}))
  FAILED=$((FAILED + ${1#* }))
}

stop_test_application() {
  trap - EXIT INT TERM
  for pid in "$CADDY_PID" "$GATE_PID" "$WEB_PID" "$WORKER_PID"; do
    alive "$pid" || continue
    kill -KILL "$pid" 2>/dev/null
    wait "$pid" 2>/dev/null || true
  done
  db_stop
  rm -rf "$GLADE_VAR"
}

# Browser tests whose report lies in a folder of their own: run_browser NAME SPEC…
run_browser() {
  GLADE_RESULTS=test-results/$1 npx --no-install playwright test "${@:2}" || true
}

command_test() {
  export GLADE_VAR="$ROOT/var/test-$$"
  export CI=1
  ensure_packages "${FOR_DATABASE[@]}" "${FOR_MEDIA[@]}" pdftotext poppler-utils
  ensure_heif
  ensure_jxl
  # The tests write the HEIC pictures that they read.
  heif-enc --list-encoders 2>/dev/null | grep -q x265 || ensure_packages libheif-plugin-x265 libheif-plugin-x265
  ensure_browser
  ensure_caddy
  ensure_fence
  ensure_node
  ensure_modules all
  checks_together "types|types" "lint|lint" "share of tests|share"
  ensure_node_build
  ensure_web_build

  rm -rf test-results/jest.json test-results/checks.counts test-results/{kills,people,first,beside,demo,keep}
  mkdir -p "$GLADE_VAR" test-results
  trap stop_test_application EXIT
  trap 'exit 130' INT TERM
  GLADE_DB_PORT=24960 db_start
  say "== unit and integration tests"
  # From the sources stills are decoded in place; fenced.test starts the child that ships.
  env -u GLADE_DECODER npx --no-install jest --silent --forceExit --json --outputFile=test-results/jest.json || true
  count_report test-results/jest.json

  say "== the application in a browser"
  node dist/manage.mjs migrate >/dev/null
  PORT=$(free_port 18420)
  choose_lan_ports
  HOST_NAME=glade.localhost
  choose_host_ports
  start_web
  start_worker
  start_gate
  start_tls "$LAN_PORT" "$GATE_PORT" "$TRUST_PORT"
  wait_for_web || fail "the web server does not answer." "The last lines of its log are above."
  export GLADE_URL="http://localhost:$PORT" GLADE_HOST_URL="https://$HOST_NAME:$HOST_PORT"
  # The demo is rendered while the tests that don't need it run: they wait for the server more than they compute.
  # Left out: the walk and the filmed bench (scene.spec and clips.spec film smaller ones), a second sitting that nothing asks for, and a kit's
  # years, which years.spec adds.
  nice -n 5 node dist/manage.mjs demo --without lantern-weir,ashwick-harbour-3,ashwick-millrace-2,ashwick-years &
  local demo=$!
  # Browsers leave the machine some time, which these take.
  {
    renice -n 10 "$BASHPID" >/dev/null
    PASSED=0 FAILED=0
    checks_together "architecture rules|rules" "unused|unused" "format|format"
    say "$PASSED $FAILED" >test-results/checks.counts
  } >test-results/checks.log 2>&1 &
  local checks=$!
  # Two browsers side by side, which leave each other's sessions alone: first what needs no demo, then what does.
  {
    run_browser kills kills.spec
    # Only one sitting is live at a time: whatever begins one is here.
    run_browser people kits.spec live.spec plan.spec signin.spec
    while kill -0 "$demo" 2>/dev/null; do sleep 1; done
    run_browser beside benches.spec clips.spec compare.spec kinds.spec years.spec
  } >test-results/beside.log 2>&1 &
  local beside=$!
  run_browser first check.spec damaged.spec footage.spec keyboard.spec motion.spec scene.spec together.spec
  wait "$demo" || fail "the demo could not be rendered." "The reason is above."
  run_browser demo carry.spec glade.spec judge.spec
  wait "$beside" || true
  cat test-results/beside.log
  wait "$checks" || true
  cat test-results/checks.log
  # What compares a backup with what is there comes by itself.
  run_browser keep keep.spec
  local part
  for part in kills people first beside demo keep; do count_report "test-results/$part/report.json"; done
  add_counts "$(cat test-results/checks.counts 2>/dev/null || say "0 1")"

  stop_test_application
  say ""
  say "$PASSED passed, $FAILED failed"
  [ "$FAILED" = 0 ]
}
