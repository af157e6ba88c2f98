#!/bin/sh
# Installs this copy of Ask Box as a service behind a web server, on Debian 13 or newer:
#
#   sudo sh deploy/install.sh forms.example.org nginx
#   sudo sh deploy/install.sh forms.example.org apache
#
# Run again, it brings the installed one up to this copy. Data is never touched.
set -eu

name="${1:-}"
server="${2:-nginx}"
here="$(cd "$(dirname "$0")/.." && pwd)"

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
[ "$(id -u)" = 0 ] || { echo "Run this with sudo." >&2; exit 2; }

export DEBIAN_FRONTEND=noninteractive
if [ "$server" = nginx ]; then packages='nginx python3-certbot-nginx'; else packages='apache2 python3-certbot-apache'; fi
apt-get update -qq
# shellcheck disable=SC2086
apt-get install -y -qq nodejs npm $packages

id askbox >/dev/null 2>&1 || useradd --system --home-dir /var/lib/askbox --shell /usr/sbin/nologin askbox
mkdir -p /opt/askbox
for part in "$here"/package.json "$here"/package-lock.json "$here"/.npmrc "$here"/tsconfig.json "$here"/vite*.config.ts "$here"/src "$here"/scripts; do
  rm -rf "/opt/askbox/$(basename "$part")"
  cp -R "$part" /opt/askbox/
done
(cd /opt/askbox && node scripts/build.mjs)

printf 'ASKBOX_PUBLIC_URL=https://%s\n' "$name" >/etc/askbox.env
cp "$here/deploy/askbox.service" /etc/systemd/system/askbox.service
if [ "$server" = nginx ]; then
  sed "s/forms\.example\.org/$name/g" "$here/deploy/nginx.conf" >/etc/nginx/sites-available/askbox.conf
  ln -sf ../sites-available/askbox.conf /etc/nginx/sites-enabled/askbox.conf
  nginx -t
  systemctl reload-or-restart nginx
else
  sed "s/forms\.example\.org/$name/g" "$here/deploy/apache.conf" >/etc/apache2/sites-available/askbox.conf
  a2enmod -q proxy proxy_http headers
  a2ensite -q askbox
  systemctl reload-or-restart apache2
fi
systemctl daemon-reload
systemctl enable -q askbox
systemctl restart askbox

echo
echo "Installed. Next, the certificate:   sudo certbot --$server -d $name"
echo "Then the pairing address:           sudo journalctl -u askbox -n 20 | grep ready"
