#!/usr/bin/env bash
# Takes the pictures in docs/screenshots anew, from the demo data.
# Needs Debian's xvfb, xterm, imagemagick, x11-utils and fonts-dejavu-core.
set -euo pipefail
repo=$(cd "$(dirname "$0")/.." && pwd)
work=$(mktemp -d)
display=:$((90 + RANDOM % 900))
(cd "$repo" && CGO_ENABLED=0 go build -o "$work/bin/moatline" ./cmd/moatline)
Xvfb "$display" -screen 0 1280x800x24 >/dev/null 2>&1 &
xvfb=$!
trap 'kill $xvfb 2>/dev/null; rm -rf "$work"' EXIT
export DISPLAY=$display PATH="$work/bin:$PATH" TERM=xterm-256color
unset NO_COLOR
for i in $(seq 50); do xdpyinfo >/dev/null 2>&1 && break; sleep 0.1; done

cd "$work"
moatline demo --into quayside >/dev/null
moatline demo --into quayside-go --language go >/dev/null
moatline demo --into quayside-mixed --language mixed >/dev/null
mkdir empty-handed
cat > empty-handed/moatline.yaml <<'Y'
aplication: Quayside harbour office
rings:
  - domain:
      file: src/domain/**
  - business logic:
      files: [src/booking/**, src/dues/**]
  - presentation:
      files: src/desk/**
    data access:
      files: "src/store/[a-"
      only-for: bussiness logic
verdicts:
  shortcuts: warn
Y

# shot NAME COMMAND...: what a terminal shows after the command.
shot() {
  local name=$1
  shift
  printf '#!/bin/bash\nprintf "\\033[1m$ %s\\033[0m\\n\\n"\n%s\ntouch done\nsleep 30\n' "${*//\"/\\\"}" "$*" > run
  chmod +x run
  rm -f done
  xterm -geometry ${geometry:-158x48}+0+0 -fa 'DejaVu Sans Mono' -fs ${size:-10} -bg '#fbfbf8' -fg '#22262b' -b 12 -bw 0 \
    -xrm 'XTerm*color1: #b3261e' -xrm 'XTerm*color2: #1f6f3f' -xrm 'XTerm*color3: #8a5a00' \
    -xrm 'XTerm*color9: #b3261e' -xrm 'XTerm*color10: #1f6f3f' -xrm 'XTerm*color11: #8a5a00' -e ./run &
  local pid=$!
  for i in $(seq 100); do [ -e done ] && break; sleep 0.1; done
  sleep 0.6
  import -window root "$repo/docs/screenshots/$name.png"
  kill $pid 2>/dev/null || true
  wait $pid 2>/dev/null || true
}

if [ $# -gt 0 ]; then
  shot "$@"
  exit
fi
geometry=178x64 size=8 shot check 'moatline check quayside'
shot check-mixed 'moatline check quayside-mixed'
shot layers 'moatline layers quayside'
mkdir bare && cp -r quayside/quayside-* quayside/pom.xml bare
shot draft 'moatline draft --print bare'
shot facts 'moatline facts quayside-go | head -44'
shot explain 'moatline explain outward --language java'
shot finding 'moatline explain f818f07ed27c quayside-go'
shot declaration-errors 'moatline check empty-handed'
shot help 'moatline'
