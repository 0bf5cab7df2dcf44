# Shared by bin/demo and the browser tests: the processes Hafen runs as, each kept running. Sourced by bin/lib.sh.
# shellcheck shell=bash

# Processes for pages and edits, and for listening; two more of these than may listen, so that a refusal is answered at once.
WEB_PROCESSES=8
LISTENERS=16

# start_time PID : when a process began, in ticks since the machine did; tells it from a later one with the same number.
start_time() {
    local stat
    { IFS= read -r stat <"/proc/$1/stat"; } 2>/dev/null || return 1
    # Behind the name, which may hold blanks and brackets, the start time is the 20th field.
    set -- ${stat##*) }
    printf '%s' "${20}"
}

# Keeps a command running, in a session of its own: what is killed or crashes is started again in a fifth of a second, and what a
# dead master left of its processes is ended first, as it would hold on to the port. php-fpm begins a session of its own, so what
# belongs to a command is looked for by both.
groups=()
keep_running() {
    setsid bash -c '
        child=none
        end_leftovers() {
            local stat pid
            for stat in /proc/[0-9]*/stat; do
                pid=${stat//[!0-9]/}
                [ "$pid" = $$ ] && continue
                # Read by the shell itself: a process for each would take seconds on a busy machine.
                { IFS= read -r stat <"$stat"; } 2>/dev/null || continue
                set -- ${stat##*) }
                if [ "$4" = $$ ] || [ "$4" = "$child" ]; then kill -KILL "$pid" 2>/dev/null; fi
            done
        }
        trap "kill -TERM \$child 2>/dev/null; wait \$child; end_leftovers; exit 0" TERM INT
        while :; do
            SECONDS=0
            "$@" &
            child=$!
            wait $child
            end_leftovers
            # What ends as soon as it begins is not begun in a hurry.
            if [ "$SECONDS" -ge 2 ]; then sleep 0.2; else sleep 0.8; fi
        done' keep_running "$@" </dev/null &
    groups+=($!)
    [ -z "${groups_file:-}" ] || printf '%s %s\n' "$!" "$(start_time $!)" >>"$groups_file"
}

# end_sessions PID... : ends what is kept running and waits for it, at most three seconds before it is killed.
end_sessions() {
    local group alive
    # The loop that keeps it running passes the signal on and waits.
    for group in "$@"; do
        kill -TERM "$group" 2>/dev/null
    done
    for _ in 1 2 3 4 5 6 7 8 9 10 11 12 13 14 15; do
        alive=0
        for group in "$@"; do
            kill -0 -- "-$group" 2>/dev/null && alive=1
        done
        [ $alive -eq 0 ] && break
        sleep 0.2
    done
    for group in "$@"; do
        kill -KILL -- "-$group" 2>/dev/null
    done
}

end_groups() {
    [ ${#groups[@]} -eq 0 ] || end_sessions "${groups[@]}"
    groups=()
    [ -z "${groups_file:-}" ] || rm -f "$groups_file"
    [ -z "${run_folder:-}" ] || rm -rf "$run_folder"
}

# remember_groups FILE : writes down what is started, and ends what an earlier run that was killed left running.
remember_groups() {
    groups_file=$1
    local pid began left=()
    if [ -f "$groups_file" ]; then
        while read -r pid began; do
            [ -n "$began" ] && [ "$(start_time "$pid")" = "$began" ] && left+=("$pid")
        done <"$groups_file"
        rm -f "$groups_file"
    fi
    if [ ${#left[@]} -gt 0 ]; then
        say "An earlier run was killed; ending what is left of it ..."
        end_sessions "${left[@]}"
    fi
}

# The standard servers, where both are there and the PHP is the same.
fpm=$(command -v php-fpm8.2 || command -v php-fpm || true)
nginx=$(command -v nginx || true)
has_standard_servers() {
    [ -n "$fpm" ] && [ -n "$nginx" ] && [ -f /etc/nginx/mime.types ] && [ "${HAFEN_SERVER:-nginx}" = nginx ]
}

write_fpm_config() {
    local run=$1 logs=$2
    cat <<CONF
[global]
error_log = $logs/php-fpm.log
log_level = warning
daemonize = no
[web]
listen = $run/web.sock
listen.backlog = 511
pm = static
pm.max_children = $WEB_PROCESSES
pm.max_requests = 2000
clear_env = no
catch_workers_output = yes
php_admin_value[max_execution_time] = 0
php_admin_value[max_input_time] = -1
[listen]
listen = $run/listen.sock
listen.backlog = 511
pm = static
pm.max_children = $((LISTENERS + 4))
clear_env = no
catch_workers_output = yes
php_admin_value[max_execution_time] = 0
php_admin_value[max_input_time] = -1
CONF
    if [ "$(id -u)" -eq 0 ]; then
        printf '[web]\nuser = root\ngroup = root\n[listen]\nuser = root\ngroup = root\n'
    fi
}

write_nginx_config() {
    local run=$1 logs=$2 port=$3
    [ "$(id -u)" -eq 0 ] && echo 'user root;'
    cat <<CONF
daemon off;
worker_processes 2;
pid $run/nginx.pid;
error_log $logs/nginx.log warn;
events { worker_connections 512; }
http {
    access_log off;
    server_tokens off;
    include /etc/nginx/mime.types;
    default_type application/octet-stream;
    client_body_temp_path $run/body;
    fastcgi_temp_path $run/fastcgi;
    proxy_temp_path $run/proxy;
    uwsgi_temp_path $run/uwsgi;
    scgi_temp_path $run/scgi;
    client_max_body_size 5m;
    client_header_timeout 20s;
    client_body_timeout 60s;
    fastcgi_read_timeout 600s;
    fastcgi_param REQUEST_METHOD \$request_method;
    fastcgi_param QUERY_STRING \$query_string;
    fastcgi_param CONTENT_TYPE \$content_type;
    fastcgi_param CONTENT_LENGTH \$content_length;
    fastcgi_param REQUEST_URI \$request_uri;
    fastcgi_param DOCUMENT_URI \$document_uri;
    fastcgi_param DOCUMENT_ROOT \$document_root;
    fastcgi_param SERVER_PROTOCOL \$server_protocol;
    fastcgi_param REQUEST_SCHEME \$scheme;
    fastcgi_param REMOTE_ADDR \$remote_addr;
    fastcgi_param SERVER_ADDR \$server_addr;
    fastcgi_param SERVER_PORT \$server_port;
    fastcgi_param SERVER_NAME \$host;
    fastcgi_param SCRIPT_NAME /index.php;
    fastcgi_param SCRIPT_FILENAME $root/public/index.php;
    server {
        listen 127.0.0.1:$port;
        root $root/public;
        error_page 413 @large;
        error_page 502 504 = @starting;
        location @large {
            default_type application/json;
            return 413 '{"place":"body","message":"The request is too large; it was not read. Up to 4 MB are taken, of a file up to 16 MB at a time."}';
        }
        location @starting {
            default_type application/json;
            return 503 '{"place":"server","message":"Hafen has to start again and did not answer this request. Try once more."}';
        }
        location ~ ^/api/listenings/[0-9a-f-]+/stream\$ {
            fastcgi_buffering off;
            fastcgi_pass unix:$run/listen.sock;
        }
        location /api/uploads {
            client_max_body_size 16m;
            fastcgi_pass unix:$run/web.sock;
        }
        location /api/ { fastcgi_pass unix:$run/web.sock; }
        location ~ \.php\$ { return 404; }
        location /build/ {
            add_header X-Content-Type-Options nosniff always;
            add_header Cache-Control 'public, max-age=31536000, immutable';
        }
        location / {
            add_header X-Content-Type-Options nosniff always;
            try_files \$uri @application;
        }
        location @application { fastcgi_pass unix:$run/web.sock; }
    }
CONF
    # What other devices may reach: the pages of performers, and the files they are made of.
    [ -z "${HAFEN_PERFORMERS_URL:-}" ] || cat <<CONF
    server {
        listen $((port + 2));
        root $root/public;
        client_max_body_size 4k;
        location /build/ {
            add_header X-Content-Type-Options nosniff always;
            add_header Cache-Control 'public, max-age=31536000, immutable';
        }
        location = /look.js { }
        location = /mark.svg { }
        location /cue/ { fastcgi_pass unix:$run/web.sock; }
        location /api/cues/ { fastcgi_pass unix:$run/web.sock; }
        location / { return 404; }
    }
CONF
    echo '}'
}

# start_servers PORT LOG_FOLDER : pages, edits and listening on PORT, a queue worker for each core (two to eight) and a supervisor.
start_servers() {
    local port=$1 logs run
    logs=$(cd "$2" && pwd)
    export APP_URL="http://127.0.0.1:$port"
    local worker workers
    workers=$(nproc 2>/dev/null || echo 2)
    export HAFEN_CORES=${HAFEN_CORES:-$workers}
    if has_standard_servers; then
        # Short, as the path of a socket may have 100 letters.
        run="/tmp/hafen-$(id -u)-$port"
        rm -rf "$run"
        mkdir -m 700 "$run" || fail "the folder $run cannot be made"
        run_folder=$run
        export HAFEN_LISTEN_URL='' HAFEN_LISTENERS=$LISTENERS
        write_fpm_config "$run" "$logs" >"$run/php-fpm.conf"
        write_nginx_config "$run" "$logs" "$port" >"$run/nginx.conf"
        local as_root=()
        [ "$(id -u)" -ne 0 ] || as_root=(-R)
        keep_running "$fpm" "${as_root[@]}" -F -y "$run/php-fpm.conf" >"$logs/web.log" 2>&1
        keep_running "$nginx" -c "$run/nginx.conf" >"$logs/listen.log" 2>&1
        served_by="nginx and php-fpm ($WEB_PROCESSES processes for pages and edits, $LISTENERS listeners)"
    else
        export HAFEN_LISTEN_URL="http://127.0.0.1:$((port + 1))" HAFEN_LISTENERS=4
        PHP_CLI_SERVER_WORKERS=$WEB_PROCESSES keep_running php -S "127.0.0.1:$port" -t public bin/router.php >"$logs/web.log" 2>&1
        if [ -n "${HAFEN_PERFORMERS_URL:-}" ]; then
            # The application refuses everything but the pages of performers to other devices.
            PHP_CLI_SERVER_WORKERS=4 keep_running php -S "0.0.0.0:$((port + 2))" -t public bin/router.php >"$logs/performers.log" 2>&1
        fi
        PHP_CLI_SERVER_WORKERS=8 keep_running php -S "127.0.0.1:$((port + 1))" -t public bin/router.php >"$logs/listen.log" 2>&1
        served_by="PHP's own server: a process of it that is killed is not replaced, and a request may wait behind a slow one. Install nginx-light and php8.2-fpm for more"
    fi
    # Renders and surveys give way to what is being listened to.
    [ "$workers" -ge 2 ] || workers=2
    [ "$workers" -le 8 ] || workers=8
    start_workers "${HAFEN_WORKERS:-$workers}" "$logs"
    keep_running nice -n 10 php artisan hafen:supervise >"$logs/supervisor.log" 2>&1
}

# start_workers NUMBER LOG_FOLDER : over Redis they have a database of their own, as on any other machine.
start_workers() {
    local worker role=()
    [ "${QUEUE_CONNECTION:-database}" != redis ] || role=(env HAFEN_ROLE=worker CACHE_STORE=array)
    for worker in $(seq "$1"); do
        keep_running "${role[@]}" nice -n 15 php artisan queue:work --queue=default,surveys,previews,proofs --sleep=0.3 --tries=1 --timeout=0 --memory=900 >"$2/worker-$worker.log" 2>&1
    done
}

# choose_durability DATA_FOLDER : an edit is on the disk before it is answered, where that costs less than 5 ms.
choose_durability() {
    local answer
    answer=$(php bin/durability.php "$1") || return 0
    HAFEN_SYNCHRONOUS=${answer%% *}
    export HAFEN_SYNCHRONOUS
    [ "$HAFEN_SYNCHRONOUS" = FULL ] \
        || say "Writing through to this disk takes ${answer##* } ms: a power cut may take the last edits (a killed process does not)."
}

# check_engine : compares the JIT with plain PHP once for each PHP and each version of the code; without the JIT where it fails.
check_engine() {
    local version
    version="$(php -i | grep -E '^(PHP Version|Build Date|opcache.jit)' | sha256sum | cut -c1-16)-$(digest core/src config/php)"
    [ "$(cat "$stamps/self-check" 2>/dev/null)" = "$version" ] && return 0
    say 'Checking that the engine computes the same with the JIT on and off ...'
    if core/bin/hafen self-check; then
        printf '%s' "$version" >"$stamps/self-check"
        return 0
    fi
    say 'The JIT of this PHP computes wrong samples. Hafen starts without it: correct, but many times slower.'
    mkdir -p "$stamps/no-jit"
    printf 'opcache.jit=disable\n' >"$stamps/no-jit/no-jit.ini"
    export PHP_INI_SCAN_DIR="$PHP_INI_SCAN_DIR:$stamps/no-jit"
}

wait_for() {
    for _ in $(seq 100); do
        php -r 'exit(@file_get_contents($argv[1]) === false ? 1 : 0);' "$1" && return 0
        sleep 0.2
    done
    return 1
}
