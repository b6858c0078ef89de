# Shared by start and test: packages, PostgreSQL on loopback, builds. Sourced, not run.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)

say() { printf '%s\n' "$*" >&2; }
die() { say "$*"; exit 1; }

# Installs Debian packages that are missing; needs root or sudo only then.
need_packages() {
    local missing=() package
    for package in "$@"; do
        dpkg -s "$package" >/dev/null 2>&1 || missing+=("$package")
    done
    [ ${#missing[@]} -eq 0 ] && return
    local sudo=()
    [ "$(id -u)" -eq 0 ] || sudo=(sudo)
    tell_while "Reading Debian's lists" "${sudo[@]}" apt-get update -qq >/dev/null
    tell_while "Installing ${missing[*]}" "${sudo[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

# Does something that takes a while, and says every ten seconds that it still does.
tell_while() {
    local what=$1 status=0 ticker
    shift
    say "$what ..."
    (
        local seconds=0
        while sleep 10; do
            seconds=$((seconds + 10))
            say "  $what: $seconds s so far"
        done
    ) 9>&- 8>&- &
    ticker=$!
    "$@" || status=$?
    kill "$ticker" 2>/dev/null || true
    wait "$ticker" 2>/dev/null || true
    return "$status"
}

need_tools() {
    command -v dotnet >/dev/null || die "The .NET SDK 10 is needed: dotnet is not on the PATH."
    command -v npm >/dev/null || die "Node.js 20 or newer with npm is needed: npm is not on the PATH."
}

# PostgreSQL refuses root: there it runs as Debian's postgres user.
as_database_user() {
    if [ "$(id -u)" -eq 0 ]; then runuser -u postgres -- "$@"; else "$@"; fi
}

port_is_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() {
    local port
    for port in $(seq "$1" "$(($1 + 200))"); do
        if port_is_free "$port"; then echo "$port"; return; fi
    done
    die "No free port between $1 and $(($1 + 200))."
}

# The data folder, where the database user can reach it.
data_folder() {
    local wanted=$1
    mkdir -p "$wanted"
    wanted=$(cd "$wanted" && pwd)
    if [ "$(id -u)" -eq 0 ] && ! runuser -u postgres -- test -x "$wanted"; then
        wanted=/var/lib/grate/$(printf '%s' "$wanted" | md5sum | cut -c1-12)
        mkdir -p "$wanted"
        chmod 755 /var/lib/grate "$wanted"
    fi
    echo "$wanted"
}

database_runs() { as_database_user "$pg_ctl" -D "$data/cluster" status >/dev/null 2>&1; }

# Starts the project's own cluster in $1, never a system one; survives a crash and a stale pid file.
# Sets the connection string for the server. The cluster's port is kept beside it.
start_database() {
    data=$1
    local cluster=$data/cluster bin pid
    bin=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -n 1)
    pg_ctl=$bin/pg_ctl
    if [ ! -s "$data/password" ]; then
        (umask 077; head -c 18 /dev/urandom | base64 | tr -d '/+=\n' >"$data/password")
        [ "$(id -u)" -ne 0 ] || chown postgres "$data/password"
    fi
    if [ ! -f "$cluster/PG_VERSION" ]; then
        rm -rf "$cluster"
        mkdir -m 700 "$cluster"
        [ "$(id -u)" -ne 0 ] || chown postgres "$cluster"
        as_database_user "$bin/initdb" -D "$cluster" -U grate -E UTF8 --locale=C.UTF-8 -A scram-sha-256 --pwfile="$data/password" \
            >"$data/initdb.log" 2>&1 || { cat "$data/initdb.log" >&2; die "PostgreSQL could not be initialised."; }
    fi
    if [ -f "$cluster/postmaster.pid" ]; then
        pid=$(head -n 1 "$cluster/postmaster.pid")
        # After a crash the number may belong to some other process.
        [ "$(readlink "/proc/$pid/cwd" 2>/dev/null || true)" = "$(readlink -f "$cluster")" ] || rm -f "$cluster/postmaster.pid"
    fi
    if ! database_runs; then
        # The port it had, where it had one and that is free: servers that are up find it again.
        if [ ! -s "$data/port" ] || ! port_is_free "$(cat "$data/port")"; then free_port "${GRATE_DATABASE_PORT:-54320}" >"$data/port"; fi
        as_database_user "$pg_ctl" -D "$cluster" -w -t 60 -l "$cluster/server.log" \
            -o "-c listen_addresses=127.0.0.1 -c port=$(cat "$data/port") -c unix_socket_directories='' ${GRATE_DATABASE_OPTIONS:-}" start >/dev/null 9>&- \
            || { tail -n 20 "$cluster/server.log" >&2; die "PostgreSQL did not start."; }
    fi
    database_port=$(cat "$data/port")
    PGPASSWORD=$(cat "$data/password")
    export PGPASSWORD
    psql_grate postgres -tAc "select 1 from pg_database where datname = 'grate'" | grep -q 1 \
        || psql_grate postgres -qc "create database grate"
    # One role owns and migrates, one serves.
    psql_grate postgres -qc "do \$\$ begin create role grate_serves login; exception when duplicate_object then null; end \$\$" -c "alter role grate_serves password '$PGPASSWORD-serves'"
    local where="Host=127.0.0.1;Port=$database_port;Database=grate"
    export ConnectionStrings__Grate="$where;Username=grate_serves;Password=$PGPASSWORD-serves"
    export ConnectionStrings__GrateOwner="$where;Username=grate;Password=$PGPASSWORD"
}

# Says where the owner of the database is, for PostgreSQL's own programs: as the server has it, else the cluster of ./start. With
# "start" that cluster is made and started where it is not; then "started" is set.
owner_of_database() {
    local owner=${ConnectionStrings__GrateOwner:-${ConnectionStrings__Grate:-}} part
    started=
    if [ -z "$owner" ]; then
        need_packages postgresql ca-certificates tzdata
        data=$(data_folder "${GRATE_DATA:-$root/.data}")
        if [ -f "$data/cluster/postmaster.pid" ] && [ -s "$data/port" ] && ! port_is_free "$(cat "$data/port")"; then
            database_port=$(cat "$data/port")
            owner="Host=127.0.0.1;Port=$database_port;Database=grate;Username=grate;Password=$(cat "$data/password")"
        elif [ "${1:-}" = start ]; then
            start_database "$data"
            started=yes
            owner=$ConnectionStrings__GrateOwner
        else
            die "Nothing runs on $data: start Grate first, or name the database in ConnectionStrings__GrateOwner."
        fi
    fi
    export PGHOST=127.0.0.1 PGPORT=5432 PGDATABASE=grate PGUSER=grate PGPASSWORD=
    local IFS=';'
    for part in $owner; do
        case ${part%%=*} in
            Host) PGHOST=${part#*=} ;;
            Port) PGPORT=${part#*=} ;;
            Database) PGDATABASE=${part#*=} ;;
            Username) PGUSER=${part#*=} ;;
            Password) PGPASSWORD=${part#*=} ;;
        esac
    done
}

stop_process() { if [ -n "$1" ]; then kill "$1" 2>/dev/null || true; wait "$1" 2>/dev/null || true; fi; }

psql_grate() { local name=$1; shift; psql -h 127.0.0.1 -p "$database_port" -U grate -d "$name" -v ON_ERROR_STOP=1 "$@"; }

stop_database() { as_database_user "$pg_ctl" -D "$data/cluster" -m fast stop >/dev/null 2>&1 || true; }

# True if anything below the folders is newer than the stamp.
newer_than() {
    local stamp=$1; shift
    [ ! -f "$stamp" ] || [ -n "$(find "$@" \( -name bin -o -name obj -o -name node_modules -o -name .svelte-kit -o -name build -o -name openapi -o -name schema.d.ts \) -prune -o -type f -newer "$stamp" -print -quit)" ]
}

install_web() {
    if newer_than "$root/web/node_modules/.installed" "$root/web/package-lock.json"; then
        # Not npm ci: it insists on optional packages of other platforms, which not every registry has.
        tell_while "Installing web packages" npm --prefix "$root/web" install --no-save --no-audit --no-fund --loglevel=error >&2 || return 1
        touch "$root/web/node_modules/.installed"
    fi
}

# Publishes the server (which writes its OpenAPI document) and builds the web from it, when sources changed.
build_grate() {
    local out=$root/.data/app stamp=$root/.data/app.stamp
    mkdir -p "$root/.data"
    # One build at a time in this folder.
    exec 8>"$root/.data/build.lock"
    flock 8
    # The web's packages come while the server is built: the two wait for the network and for the compiler in turn.
    install_web &
    local packages=$!
    if newer_than "$stamp" "$root/src" "$root/web" "$root"/Directory.*; then
        touch "$stamp.new"
        tell_while "Building the server" dotnet publish "$root/src/Grate.Server" -c Release -o "$out" -v quiet --nologo >&2
        wait "$packages" || die "The web's packages could not be installed; the lines above say why."
        tell_while "Building the pages" npm --prefix "$root/web" run --silent build >&2
        mv "$stamp.new" "$stamp"
    else
        wait "$packages" || die "The web's packages could not be installed; the lines above say why."
    fi
    exec 8>&-
    app=$out/Grate.Server.dll
    export Web__Root=$root/web/build
}

# Starts the stand-in instruments in the background on two free ports, and tells the server where they are.
serve_instruments() {
    Instruments__Port=$(free_port 8510)
    instruments_page=$(free_port $((Instruments__Port + 1)))
    export Instruments__Host=127.0.0.1 Instruments__Port Roads__Address=http://127.0.0.1:$instruments_page/
    dotnet "$root/.data/app/Grate.Instruments.dll" --port "$Instruments__Port" --page "$instruments_page" 9>&- &
    instruments=$!
}

# Starts the server in the background on port $1; returns when it truly answers.
serve() {
    (cd "$root" && exec dotnet "$app" --urls "http://127.0.0.1:$1") 9>&- &
    server=$!
    for _ in $(seq 1 240); do
        kill -0 "$server" 2>/dev/null || die "Grate stopped while starting; the lines above say why."
        if curl -fsS -o /dev/null "http://127.0.0.1:$1/api/health" 2>/dev/null; then return; fi
        sleep 0.25
    done
    die "Grate did not answer within a minute."
}
