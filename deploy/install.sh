#!/bin/sh
# Installs this copy of Ask Box as a service behind a web server, on Debian 13 or newer:
#
#   sudo sh deploy/install.sh forms.example.org nginx
#   sudo sh deploy/install.sh forms.example.org apache
#
# Run again, it brings the installed one up to this copy: built aside, data copied first, swapped, looked at, and swapped
# back where it does not answer. Settings, certificates and data are kept. The version before comes back by
#
#   sudo sh deploy/install.sh --back
set -eu

# Tests install below a folder of their own.
root="${ASKBOX_ROOT:-}"
here="$(cd "$(dirname "$0")/.." && pwd)"
installed="$root/opt/askbox"
settings="$root/etc/askbox.env"
data="$root/var/lib/askbox"
copies="$root/var/backups/askbox"
unit="$root/etc/systemd/system/askbox.service"

[ "$(id -u)" = 0 ] || { echo "Run this with sudo." >&2; exit 2; }

# Whether the receiver answers that it can store sign-ups, within a minute.
is_well() {
  port="$(sed -n 's/^ASKBOX_PORT=//p' "$settings" 2>/dev/null | tail -n 1)"
  node -e '
    const [port] = process.argv.slice(1)
    const until = Date.now() + Number(process.env.ASKBOX_PATIENCE_MS || 60000)
    const look = () => fetch(`http://127.0.0.1:${port}/health`, { signal: AbortSignal.timeout(5000) })
      .then((answer) => answer.ok || Promise.reject(), () => Promise.reject())
      .then(() => process.exit(0), () => (Date.now() > until ? process.exit(1) : setTimeout(look, 500)))
    look()' "${port:-4310}"
}

# Puts the version before in place of the installed one, which is kept in turn.
swap_back() {
  mv "$installed" "$installed.other"
  mv "$installed.before" "$installed"
  mv "$installed.other" "$installed.before"
}

if [ "${1:-}" = --back ]; then
  [ -d "$installed.before" ] || { echo "There is no version before the installed one." >&2; exit 2; }
  systemctl stop askbox
  swap_back
  systemctl start askbox
  if is_well; then
    echo "The version before runs again. The newer one is kept: the same command brings it back."
    exit 0
  fi
  systemctl stop askbox
  swap_back
  systemctl start askbox
  echo "The version before does not answer with the data as they are now, so the newer one runs again." >&2
  echo "The data as they were before the last update: $copies" >&2
  exit 1
fi

name="${1:-}"
server="${2:-nginx}"
case "$name" in
  *[!a-z0-9.-]* | '' | .* | -*)
    echo "Give the name under which visitors reach this computer, such as forms.example.org." >&2
    exit 2
    ;;
esac
case "$server" in
  nginx | apache) ;;
  *)
    echo "The web server is nginx or apache." >&2
    exit 2
    ;;
esac

export DEBIAN_FRONTEND=noninteractive
if [ "$server" = nginx ]; then packages='nginx python3-certbot-nginx'; else packages='apache2 python3-certbot-apache'; fi
apt-get update -qq
# shellcheck disable=SC2086
apt-get install -y -qq nodejs npm $packages
id askbox >/dev/null 2>&1 || useradd --system --home-dir /var/lib/askbox --shell /usr/sbin/nologin askbox

# Built aside: what runs goes on running, and stays as it is where this fails.
target="$installed.new"
rm -rf "$target"
mkdir -p "$target"
for part in "$here"/package.json "$here"/package-lock.json "$here"/.npmrc "$here"/tsconfig*.json "$here"/vite*.config.ts "$here"/src "$here"/docs "$here"/scripts "$here"/deploy; do
  cp -R "$part" "$target/"
done
if ! (cd "$target" && node scripts/build.mjs); then
  rm -rf "$target"
  echo "It could not be built. What was installed is untouched, and goes on." >&2
  exit 1
fi

# Whoever looks after this computer may have written more into it: a mail password, for instance.
mkdir -p "$(dirname "$settings")" "$(dirname "$unit")"
if [ ! -f "$settings" ]; then (umask 077 && printf 'ASKBOX_PUBLIC_URL=https://%s\n' "$name" >"$settings"); fi
chmod 600 "$settings"
# What keys of outside services are sealed with. It stands here, and in no copy of the data.
grep -q '^ASKBOX_SECRET=' "$settings" ||
  printf 'ASKBOX_SECRET=%s\n' "$(node -p 'crypto.randomBytes(32).toString("base64url")')" >>"$settings"
grep -qx "ASKBOX_PUBLIC_URL=https://$name" "$settings" ||
  echo "Kept: $settings names another address than https://$name." >&2

# The service's file is ours, unless somebody changed it.
if [ ! -f "$unit" ] || cmp -s "$unit" "$installed/deploy/askbox.service" || [ ! -f "$installed/deploy/askbox.service" ]; then
  cp "$here/deploy/askbox.service" "$unit"
else
  echo "Kept: $unit was changed here. Compare it with $installed/deploy/askbox.service." >&2
fi
# The web server's is ours only until certbot has put its certificate into it.
sites="$root/etc/nginx/sites-available"
[ "$server" = nginx ] || sites="$root/etc/apache2/sites-available"
if [ -f "$sites/askbox.conf" ]; then
  echo "Kept: $sites/askbox.conf, with its certificate." >&2
else
  mkdir -p "$sites"
  shipped="$server.conf"
  sed "s/forms\.example\.org/$name/g" "$here/deploy/$shipped" >"$sites/askbox.conf"
  if [ "$server" = nginx ]; then
    mkdir -p "$root/etc/nginx/sites-enabled"
    ln -sf ../sites-available/askbox.conf "$root/etc/nginx/sites-enabled/askbox.conf"
    nginx -t
    systemctl reload-or-restart nginx
  else
    a2enmod -q proxy proxy_http headers
    a2ensite -q askbox
    systemctl reload-or-restart apache2
  fi
fi

systemctl daemon-reload
systemctl enable -q askbox
if [ ! -d "$installed" ]; then
  mv "$target" "$installed"
  systemctl start askbox
  is_well || { echo "It is installed, but does not answer: sudo journalctl -u askbox" >&2; exit 1; }
  echo
  echo "Installed. Next, the certificate:   sudo certbot --$server -d $name"
  echo "Then an address for your browser:   sudo journalctl -u askbox -n 20 | grep ready"
  echo "For rehearsals as visitors do:      sudo apt install chromium-headless-shell"
  exit 0
fi

# An update. Data are copied while nothing writes: a newer version may keep them in another shape.
(umask 077 && mkdir -p "$copies")
systemctl stop askbox
if [ -d "$data" ]; then
  rm -rf "$copies/before-update.new"
  if ! cp -a "$data" "$copies/before-update.new"; then
    rm -rf "$copies/before-update.new" "$target"
    systemctl start askbox
    echo "The data could not be copied to $copies, so nothing was changed." >&2
    if is_well; then echo "What was installed goes on." >&2; else echo "It does not answer: sudo journalctl -u askbox" >&2; fi
    exit 1
  fi
  rm -rf "$copies/before-update"
  mv "$copies/before-update.new" "$copies/before-update"
  # Who is erased is gone from it within the days that erasing promises: tmpfiles.d(5), looked at each day.
  mkdir -p "$root/etc/tmpfiles.d"
  printf 'e %s - - - 7d\n' "$copies/before-update" "$copies/failed-update" >"$root/etc/tmpfiles.d/askbox.conf"
fi
rm -rf "$installed.before"
mv "$installed" "$installed.before"
mv "$target" "$installed"
systemctl start askbox
if is_well; then
  echo
  echo "Updated. Going back, should you want to:   sudo sh $installed/deploy/install.sh --back"
  echo "The data as they were before, for a week:  $copies/before-update"
  exit 0
fi

echo "The new version does not answer. The one before is put back, with its data." >&2
systemctl stop askbox
swap_back
rm -rf "$installed.failed"
mv "$installed.before" "$installed.failed"
if [ -d "$copies/before-update" ]; then
  # What the new one made of them is moved aside, for a week.
  rm -rf "$copies/failed-update"
  mv "$data" "$copies/failed-update"
  cp -a "$copies/before-update" "$data"
fi
systemctl start askbox
is_well || echo "Nor does the one before: sudo journalctl -u askbox" >&2
exit 1
