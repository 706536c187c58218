# https for machines on the local network: Debian's Caddy before the gate, with a root of this desk's own that can vouch for nothing but
# names and addresses of local networks, or with a certificate that is given.

CADDY_PID=

tls_folder() { printf '%s/tls' "$GLADE_VAR"; }

ensure_caddy() {
  local had=
  if find_program caddy >/dev/null; then had=1; fi
  ensure_packages caddy caddy openssl openssl
  # Debian starts a server of its own with it, on port 80, which nobody asked for here.
  if [ -z "$had" ] && [ -d /run/systemd/system ]; then as_root systemctl disable --now caddy >/dev/null 2>&1 || true; fi
}

# Addresses and names by which others on the network reach this machine, one a line.
lan_names() {
  hostname -I 2>/dev/null | tr ' ' '\n' | grep -E '^[0-9]+(\.[0-9]+){3}$' || true
  local name
  name=$(hostname 2>/dev/null | tr '[:upper:]' '[:lower:]')
  [[ "$name" =~ ^[a-z0-9-]+$ ]] && printf '%s.local\n' "$name"
  return 0
}

# A root that says itself what it may sign for (RFC 5280, 4.2.1.10): a phone that trusts it trusts it for local names alone.
make_root() {
  local folder own permitted
  folder=$(tls_folder)
  [ -s "$folder/root.crt" ] && [ -s "$folder/root.key" ] && return 0
  mkdir -p "$folder"
  chmod 700 "$folder"
  permitted='IP:10.0.0.0/255.0.0.0 IP:172.16.0.0/255.240.0.0 IP:192.168.0.0/255.255.0.0 IP:169.254.0.0/255.255.0.0 IP:127.0.0.0/255.0.0.0 DNS:local DNS:localhost'
  # Networks that use other addresses are known by the one that this machine has.
  for own in $(lan_names); do if [[ "$own" =~ ^[0-9.]+$ ]]; then permitted="$permitted IP:$own/255.255.255.255"; fi; done
  {
    printf '[req]\ndistinguished_name = name\nprompt = no\nx509_extensions = root\n[name]\nCN = Aurora Glade on %s, %s\n' "$(hostname)" "$(date +%F)"
    printf '[root]\nbasicConstraints = critical, CA:TRUE, pathlen:1\nkeyUsage = critical, keyCertSign, cRLSign\nsubjectKeyIdentifier = hash\nnameConstraints = critical'
    for own in $permitted; do printf ', permitted;%s' "$own"; done
    printf '\n'
  } >"$folder/root.conf"
  (
    umask 077
    quietly "openssl" openssl req -x509 -newkey ec -pkeyopt ec_paramgen_curve:prime256v1 -nodes -days 3650 -config "$folder/root.conf" -keyout "$folder/root.key.new" -out "$folder/root.crt.new"
  ) || fail "the certificate of this desk could not be made." "The lines above say why. --insecure answers phones without one."
  mv "$folder/root.key.new" "$folder/root.key"
  mv "$folder/root.crt.new" "$folder/root.crt"
}

# Names that nobody started this for get a word, and not an empty page.
turn_others_away() {
  local port
  for port in "$@"; do
    printf 'https://:%s {\n\trespond "{\\"error\\":\\"This is answered by the name that it was started for, not by another.\\"}" 421\n}\n' "$port"
  done
}

# What Caddy reads: https on one port, and a plain page on another that hands the root out.
write_caddyfile() {
  local port=$1 gate=$2 trust=$3 cert=${4:-} key=${5:-} folder sites name tls
  folder=$(tls_folder)
  sites="https://localhost:$port, https://127.0.0.1:$port"
  for name in $(lan_names); do sites="$sites, https://$name:$port"; done
  [ -z "$cert" ] || sites="https://:$port"
  tls=internal
  [ -z "$cert" ] || tls="\"$cert\" \"$key\""
  {
    printf '{\n\tadmin off\n\tskip_install_trust\n\tauto_https disable_redirects\n\tstorage file_system "%s/kept"\n\tlog {\n\t\tlevel ERROR\n\t}\n' "$folder"
    [ -n "$cert" ] || printf '\tpki {\n\t\tca local {\n\t\t\tname "Aurora Glade"\n\t\t\tintermediate_cn "Aurora Glade, signing"\n\t\t\troot {\n\t\t\t\tcert "%s/root.crt"\n\t\t\t\tkey "%s/root.key"\n\t\t\t}\n\t\t}\n\t}\n' "$folder" "$folder"
    printf '}\n'
    [ -z "$port" ] || printf '%s {\n\ttls %s\n\treverse_proxy 127.0.0.1:%s\n}\n' "$sites" "$tls" "$gate"
    [ -z "$HOST_NAME" ] || printf 'https://%s:%s {\n\ttls %s\n\treverse_proxy 127.0.0.1:%s\n}\n' "$HOST_NAME" "$HOST_PORT" "$tls" "$HOST_GATE_PORT"
    [ -z "$trust" ] || printf 'http://:%s {\n\thandle /root.crt {\n\t\troot * "%s"\n\t\theader Content-Type application/x-x509-ca-cert\n\t\tfile_server\n\t}\n\thandle {\n\t\trewrite * /trust\n\t\treverse_proxy 127.0.0.1:%s\n\t}\n}\n' "$trust" "$folder" "$gate"
    # A certificate that was given is shown for every name on the port: it is its owner's.
    [ -n "$cert" ] || turn_others_away $port
    [ -z "$HOST_NAME" ] || [ "$HOST_PORT" = "$port" ] || turn_others_away "$HOST_PORT"
  } >"$folder/Caddyfile"
}

start_caddy() {
  local folder
  folder=$(tls_folder)
  HOME=$folder XDG_DATA_HOME=$folder/kept XDG_CONFIG_HOME=$folder/kept tied "$(find_program caddy)" run --config "$folder/Caddyfile" --adapter caddyfile >>"$GLADE_VAR/caddy.log" 2>&1 &
  CADDY_PID=$!
}

# Sets up and starts https before the gate and the name of --host: its port, the gate's, the one of the plain page (all empty without --lan), a
# certificate and its key where they are given.
start_tls() {
  ensure_caddy
  mkdir -p "$(tls_folder)"
  if [ -n "${4:-}" ]; then
    [ -r "$4" ] && [ -r "${5:-}" ] || fail "the certificate $4 or its key ${5:-} can't be read."
  else
    make_root
  fi
  write_caddyfile "$@"
  start_caddy
}
