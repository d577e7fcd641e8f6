#!/bin/bash
# Installs the package into a clean root, sets it up there, runs it as its unit would, and removes it without a trace.
# Arguments: the package, a folder that may be thrown away, two free ports (PostgreSQL's, Remitto's). Prints a line for each thing that
# was seen, and ends with 1 and its reason at the first that is not as it should be.
set -euo pipefail

DEB=$1 WORK=$2 PG_PORT=$3 PORT=$4
ROOT=$WORK/root
SERVER=

fail() { printf 'not as it should be: %s\n' "$*" >&2; exit 1; }
seen() { printf 'seen: %s\n' "$*"; }
inside() { env -i PATH=/usr/sbin:/usr/bin:/sbin:/bin LANG=C.UTF-8 DEBIAN_FRONTEND=noninteractive chroot "$ROOT" "$@"; }

clean_root() {
  mkdir -p "$WORK/upper" "$WORK/work" "$ROOT"
  if ! mount -t overlay overlay -o "lowerdir=/,upperdir=$WORK/upper,workdir=$WORK/work" "$ROOT" 2>/dev/null; then
    # Where nothing can be mounted, a copy of this system serves.
    cp -a /bin /sbin /lib* /usr /etc "$ROOT/"
    mkdir -p "$ROOT"/{tmp,root,run,home,var/lib,var/log,var/cache,proc,dev}
    cp -a /var/lib/dpkg /var/lib/postgresql "$ROOT/var/lib/" 2>/dev/null || true
    chmod 1777 "$ROOT/tmp"
  fi
  mount -t proc proc "$ROOT/proc" 2>/dev/null || true
  mount --rbind /dev "$ROOT/dev" 2>/dev/null || mknod -m 666 "$ROOT/dev/null" c 1 3 || true
  rm -rf "$ROOT"/etc/remitto "$ROOT"/var/lib/remitto "$ROOT"/etc/postgresql/*/remitto
}

leave() {
  [ -z "$SERVER" ] || kill "$SERVER" 2>/dev/null || true
  inside pg_ctlcluster "$VERSION" remitto stop -m immediate >/dev/null 2>&1 || true
  umount -l "$ROOT/proc" 2>/dev/null || true
  umount -R -l "$ROOT/dev" 2>/dev/null || true
  umount -l "$ROOT" 2>/dev/null || true
}

begin() { # as the unit does: its user, its environment, its command
  local command
  command=$(sed -n 's/^ExecStart=//p' "$ROOT/lib/systemd/system/remitto.service")
  inside runuser -u "$(sed -n 's/^User=//p' "$ROOT/lib/systemd/system/remitto.service")" -- \
    bash -c "cd /var/lib/remitto; umask 0077; . /etc/default/remitto; exec $command" >>"$WORK/server.log" 2>&1 &
  SERVER=$!
  for _ in $(seq 240); do
    if curl -fsS -o /dev/null "http://127.0.0.1:$PORT/health/readiness" 2>/dev/null; then return; fi
    kill -0 "$SERVER" 2>/dev/null || { tail -n 30 "$WORK/server.log" >&2; fail "the server ended while it started"; }
    sleep 1
  done
  fail "the server does not get ready"
}

end() {
  # It is the leader of nothing: the java process is what runuser became the parent of.
  inside pkill -TERM -u remitto java
  wait "$SERVER" || true
  SERVER=
}

owner() { inside stat -c '%U:%G %a' "$1"; }

VERSION=$(ls /usr/lib/postgresql | sort -V | tail -n 1)
trap leave EXIT
clean_root
cp "$DEB" "$ROOT/tmp/remitto.deb"

inside dpkg -i /tmp/remitto.deb >"$WORK/dpkg.log" 2>&1 || { tail -n 20 "$WORK/dpkg.log" >&2; fail "it does not install"; }
[ "$(owner /etc/remitto)" = "root:remitto 750" ] || fail "/etc/remitto is $(owner /etc/remitto)"
[ "$(owner /var/lib/remitto)" = "remitto:remitto 750" ] || fail "/var/lib/remitto is $(owner /var/lib/remitto)"
inside getent passwd remitto | grep -q '/usr/sbin/nologin$' || fail "its user can sign in"
seen "installed, with a user of its own"

[ "$(inside remitto --version)" = "remitto 0.1.0" ] || fail "the command does not say its version"
inside bash -c '. /usr/share/bash-completion/completions/remitto && complete -p remitto' >/dev/null || fail "the command is not completed"
seen "the command runs, and bash completes it"

if inside remitto-admin setup >"$WORK/early.log" 2>&1; then fail "it was set up without a database"; fi
grep -q "there is no PostgreSQL on this machine that answers" "$WORK/early.log" || fail "$(cat "$WORK/early.log")"
[ ! -e "$ROOT/etc/remitto/remitto.yaml" ] || fail "a setup that failed left its file"
seen "without a database it says so, and leaves nothing"

inside pg_createcluster -p "$PG_PORT" "$VERSION" remitto --start >"$WORK/cluster.log" 2>&1 || fail "$(tail -n 5 "$WORK/cluster.log")"
inside remitto-admin setup >"$WORK/setup.log" 2>&1 || fail "$(cat "$WORK/setup.log")"
[ "$(owner /etc/remitto/database.password)" = "root:remitto 640" ] || fail "the password is readable: $(owner /etc/remitto/database.password)"
sed -i "s/^  port: .*/  port: $PORT/" "$ROOT/etc/remitto/remitto.yaml"
# What is compiled for speed takes longer than the whole test.
sed -i 's/-Xmx1g/-Xmx1g -XX:TieredStopAtLevel=1/' "$ROOT/etc/default/remitto"
begin
inside remitto-admin status | grep -q "is ready at http://127.0.0.1:$PORT/" || fail "$(inside remitto-admin status)"
link=$(inside remitto-admin link)
curl -fsS -o /dev/null "http://127.0.0.1:$PORT/api/welcome/${link##*/}" || fail "the link of the first administrator leads nowhere: $link"
[ "$(owner /var/lib/remitto/secret.key)" = "remitto:remitto 600" ] || fail "the key is readable: $(owner /var/lib/remitto/secret.key)"
inside remitto-admin lock-journal | grep -q "can change the journal" || fail "the journal is not locked"
seen "set up, started as its unit starts it, and somebody can come in"

if inside remitto-admin rotate-key >"$WORK/rotate.log" 2>&1; then fail "the key was changed under a running server"; fi
end
before=$(sha256sum <"$ROOT/var/lib/remitto/secret.key")
inside remitto-admin rotate-key >"$WORK/rotate.log" 2>&1 || fail "$(cat "$WORK/rotate.log")"
[ "$before" != "$(sha256sum <"$ROOT/var/lib/remitto/secret.key")" ] || fail "the key is the same"
begin
end
seen "another key, and started again"

inside dpkg -i /tmp/remitto.deb >"$WORK/dpkg.log" 2>&1 || fail "it does not install over itself"
[ -s "$ROOT/etc/remitto/remitto.yaml" ] || fail "an upgrade took the configuration away"
inside dpkg -r remitto >"$WORK/dpkg.log" 2>&1 || fail "it does not go"
[ ! -e "$ROOT/usr/share/remitto/remitto-server.jar" ] || fail "its jar stayed"
[ -s "$ROOT/etc/remitto/remitto.yaml" ] && [ -s "$ROOT/var/lib/remitto/secret.key" ] || fail "removing took settings and key away"
inside dpkg -P remitto >"$WORK/dpkg.log" 2>&1 || fail "it is not purged"
left=$(find "$ROOT/etc" "$ROOT/usr" "$ROOT/lib" "$ROOT/var/lib" -iname '*remitto*' -not -path '*postgresql*' 2>/dev/null || true)
[ -z "$left" ] || fail "purging left $left"
if inside getent passwd remitto >/dev/null; then fail "its user stayed"; fi
seen "removed, and purged without a trace"
