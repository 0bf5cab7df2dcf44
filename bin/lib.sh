# Shared by bin/demo and bin/test: what has to be there, installed only when it is not.
# shellcheck shell=bash

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root" || exit 1
stamps="$root/.setup"
mkdir -p "$stamps"

# The engine's JIT and its limits; child processes inherit it. The leading colon keeps the machine's own settings.
export PHP_INI_SCAN_DIR=":$root/config/php"

say() { printf '%s\n' "$*"; }

fail() {
    printf 'hafen: %s\n' "$*" >&2
    exit 1
}

# need_packages WHY PACKAGE... : Debian packages, installed in one go where apt and root are there, named where not.
need_packages() {
    local why=$1
    shift
    local missing=()
    for package in "$@"; do
        dpkg -s "$package" >/dev/null 2>&1 || missing+=("$package")
    done
    [ ${#missing[@]} -eq 0 ] && return 0
    if ! command -v apt-get >/dev/null 2>&1 || [ "$(id -u)" -ne 0 ]; then
        fail "$why needs what these Debian packages hold; install them and start again: ${missing[*]}"
    fi
    say "Installing ${missing[*]} ($why) ..."
    apt-get update -qq >"$stamps/apt.log" 2>&1
    DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >>"$stamps/apt.log" 2>&1 \
        || fail "apt-get could not install ${missing[*]}; see .setup/apt.log"
}

# want_packages WHY PACKAGE... : as need_packages, but it goes on without them where they cannot be installed.
want_packages() {
    if command -v apt-get >/dev/null 2>&1 && [ "$(id -u)" -eq 0 ]; then
        (need_packages "$@") || true
    fi
}

# The SHA-256 of some files and folders, to see whether a step has to run again.
digest() {
    find "$@" -type f -print0 2>/dev/null | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1
}

# once NAME DIGEST COMMAND... : runs the command unless it already ran for this digest.
once() {
    local name=$1 wanted=$2
    shift 2
    [ "$(cat "$stamps/$name" 2>/dev/null)" = "$wanted" ] && return 0
    "$@" || return 1
    printf '%s' "$wanted" >"$stamps/$name"
}

php_extension() { php -m | grep -qix "$1"; }

composer_install() {
    say 'Installing PHP packages ...'
    COMPOSER_ALLOW_SUPERUSER=1 composer install --no-interaction --no-progress --quiet --no-scripts \
        && php artisan package:discover --quiet
}

npm_install() {
    say 'Installing front-end packages ...'
    npm install --no-progress --loglevel=error >"$stamps/npm.log" 2>&1 || {
        tail -n 20 "$stamps/npm.log"
        return 1
    }
}

front_end_build() {
    say 'Building the interface ...'
    npm run build >"$stamps/build.log" 2>&1 || {
        tail -n 40 "$stamps/build.log"
        return 1
    }
}

# What PHP alone needs.
set_up_php() {
    command -v php >/dev/null || fail 'PHP 8.2 is needed (php8.2-cli).'
    command -v composer >/dev/null || fail 'Composer is needed.'
    local wanted=()
    php_extension pdo_sqlite || wanted+=(php8.2-sqlite3)
    php_extension zip || wanted+=(php8.2-zip)
    php_extension curl || wanted+=(php8.2-curl)
    [ ${#wanted[@]} -eq 0 ] || need_packages 'the application' "${wanted[@]}"

    [ -d vendor ] || rm -f "$stamps/composer"
    once composer "$(digest composer.json)" composer_install || fail 'the PHP packages could not be installed'

    if [ ! -f .env ]; then
        sed "s#^APP_KEY=.*#APP_KEY=base64:$(head -c 32 /dev/urandom | base64)#" .env.example >.env
    fi
}

# Everything bin/demo and bin/test need.
set_up() {
    command -v node >/dev/null || fail 'Node 20 with npm is needed.'
    set_up_php
    want_packages 'the servers' nginx-light php8.2-fpm

    [ -d node_modules ] || rm -f "$stamps/npm"
    [ -d public/build ] || rm -f "$stamps/build"
    once npm "$(digest package.json)" npm_install || fail 'the front-end packages could not be installed'
    once build "$(digest resources/js resources/css package.json vite.config.ts tsconfig.json)" front_end_build || fail 'the interface could not be built'
}

# use_redis HOST[:PORT] : gives work to workers of any machine, or takes it, over this Redis; its password comes from REDIS_PASSWORD.
use_redis() {
    export QUEUE_CONNECTION=redis REDIS_HOST=${1%%:*} REDIS_PORT=6379
    case $1 in *:*) REDIS_PORT=${1##*:} ;; esac
    case $REDIS_HOST:$REDIS_PORT in :* | *[!0-9] | *:) fail "--redis takes HOST or HOST:PORT, not \"$1\"" ;; esac
    php -r 'exit(@fsockopen($argv[1], (int) $argv[2], $no, $why, 3.0) === false ? 1 : 0);' "$REDIS_HOST" "$REDIS_PORT" \
        || fail "there is no Redis at $REDIS_HOST:$REDIS_PORT. Start one (Debian: redis-server), or name another with --redis."
}

port_is_free() {
    php -r 'exit(@stream_socket_server("tcp://127.0.0.1:".$argv[1]) === false ? 1 : 0);' "$1"
}

# shellcheck source=bin/lib-servers.sh
. "$root/bin/lib-servers.sh"
