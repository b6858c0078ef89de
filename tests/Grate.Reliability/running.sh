#!/usr/bin/env bash
# Runs the sh blocks of docs/running.md from top to bottom, as they are written, on a PostgreSQL and in folders of its own.
# Stands in for what a test machine does not have: sudo's other users, and systemd.
source "$(dirname "${BASH_SOURCE[0]}")/../../scripts/common.sh"

box=$(mktemp -d /tmp/grate-running-XXXXXX)
chmod 755 "$box"
service=
finish() { trap - EXIT; stop_process "$service"; stop_database; rm -rf "$box"; }
trap finish EXIT
GRATE_DATABASE_PORT=55400 start_database "$box" >&2
# An empty cluster, as Debian's is.
psql_grate postgres -qc "drop database grate" -c "drop role grate_serves"
unset ConnectionStrings__Grate ConnectionStrings__GrateOwner Web__Root Demo
export GRATE_DATA=$box/none super=$PGPASSWORD
unset PGPASSWORD
mkdir -p "$box/opt"
port=$(free_port 8800)

# Debian's superuser is postgres, by its own socket; here it is the cluster's owner.
sudo() {
    if [ "$1" = -u ]; then
        shift 2
        [ "$1" != psql ] || { shift; set -- psql -h 127.0.0.1 -p "$database_port" -U grate -d postgres "$@"; }
        PGPASSWORD=$super "$@"
    else
        "$@"
    fi
}
systemctl() {
    case "$*" in
        daemon-reload) ;;
        "enable --now grate" | "start grate")
            (set -a; . "$box/grate.env"; set +a; exec dotnet "$box/opt/app/Grate.Server.dll" --urls "http://127.0.0.1:$port" >>"$box/service.log" 2>&1) &
            service=$!
            for _ in $(seq 1 120); do curl -fsS -o /dev/null "http://127.0.0.1:$port/api/health" 2>/dev/null && return; sleep 0.5; done
            cat "$box/service.log" >&2
            die "The service did not answer." ;;
        "stop grate") stop_process "$service"; service= ;;
        *) die "systemctl $*" ;;
    esac
}

sed -n '/^```sh$/,/^```$/p' "$root/docs/running.md" | sed '/^```/d' \
    | sed -e "s#/opt/grate#$box/opt#g" -e "s#/etc/grate.env#$box/grate.env#g" -e "s#/var/backups/grate#$box/backups#g" -e "s#/var/lib/grate#$box/state#g" \
          -e "s#Host=127.0.0.1#Host=127.0.0.1;Port=$database_port#g" -e "s#psql -h 127.0.0.1 -U#psql -h 127.0.0.1 -p $database_port -U#g" >"$box/commands"
cd "$root"
. "$box/commands" >&2

# What it leads to: the owner signs in with the password that was set last, and whoever left does not.
signed_in() { curl -s -o /dev/null -w '%{http_code}' -H 'content-type: application/json' -d "{\"email\":\"$1\",\"password\":\"$2\"}" "http://127.0.0.1:$port/api/session"; }
[ "$(signed_in owner@firm.example 'seven kettles in one row')" = 200 ] || die "The owner cannot sign in."
[ "$(signed_in desk@firm.example 'a lantern under the stairs')" = 401 ] || die "Who was removed can sign in."
[ "$(curl -s "http://127.0.0.1:$port/" | grep -c '<html')" -ge 1 ] || die "The page is not served."
echo "docs/running.md: $(grep -c . "$box/commands") lines run as they are written"
