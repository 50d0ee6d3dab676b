# What several servers on one machine need beside PostgreSQL: Redis between them, and nginx in front that shares requests out; sourced by ./start.

# as_user USER: sets $as to the words that a command becomes an ordinary user by, where ./start is root; the process stays the same.
as_user() {
  as=()
  [ "$(id -u)" -ne 0 ] || as=(setpriv --reuid "$1" --regid "$1" --init-groups)
}

# Redis keeps nothing on disk: what it carries is old within a second. Its settings come by standard input, the password with them.
start_redis() {
  redis_port=${redis_port:-$(free_port)}
  redis_password=${redis_password:-$(head -c 24 /dev/urandom | sha256sum | cut -c1-32)}
  keep_small "$logs/redis.log"
  as_user redis
  (cd / && exec "${as[@]}" setsid redis-server -) >>"$logs/redis.log" 2>&1 9>&- <<SETTINGS &
bind 127.0.0.1
port $redis_port
requirepass $redis_password
save ""
appendonly no
maxmemory 64mb
SETTINGS
  redis=$!
  remember redis "$redis"
}

# The front has the port that people know. A bay's readings go to the same server while it is there: it has the run so far in its memory.
start_front() {
  local upstream= at
  front_home=${front_home:-$(mktemp -d /tmp/remedos-front-XXXXXX)}
  for at in "${server_ports[@]}"; do upstream+="    server 127.0.0.1:$at max_fails=1 fail_timeout=2s;"$'\n'; done
  cat >"$front_home/nginx.conf" <<SETTINGS
worker_processes 1;
daemon off;
pid $front_home/pid;
error_log stderr warn;
events { worker_connections 1024; }
http {
  access_log off;
  client_body_temp_path $front_home/body;
  proxy_temp_path $front_home/proxy;
  fastcgi_temp_path $front_home/fastcgi;
  uwsgi_temp_path $front_home/uwsgi;
  scgi_temp_path $front_home/scgi;
  upstream any {
$upstream    keepalive 32;
  }
  upstream same {
    hash \$uri consistent;
$upstream    keepalive 32;
  }
  map \$http_upgrade \$upgrading { default upgrade; "" ""; }
  server {
    listen 127.0.0.1:$port;
    client_max_body_size 0;
    proxy_http_version 1.1;
    proxy_request_buffering off;
    proxy_connect_timeout 2s;
    proxy_read_timeout 1h;
    proxy_set_header Host \$http_host;
    proxy_set_header Upgrade \$http_upgrade;
    proxy_set_header Connection \$upgrading;
    location = /metrics { return 404; }
    location / { proxy_pass http://any; }
    location ~ ^/api/bays/[0-9]+/readings\$ { proxy_pass http://same; }
  }
}
SETTINGS
  [ "$(id -u)" -ne 0 ] || chown -R www-data "$front_home"
  keep_small "$logs/front.log"
  as_user www-data
  (cd / && exec "${as[@]}" setsid nginx -p "$front_home" -e stderr -c "$front_home/nginx.conf") >>"$logs/front.log" 2>&1 9>&- &
  front=$!
  remember front "$front"
}
