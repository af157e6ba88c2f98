import { html } from 'hono/html'
import type { HtmlEscapedString } from 'hono/utils/html'
import type { Holdings, Service } from './holdings'
import { services, troubles } from './holdings'
import { KETTLE_ACCOUNT } from './kettle'

export const serviceNames: Record<Service, string> = {
  lantern: 'Lantern Post',
  kettle: 'Tin Kettle',
  harbour: 'Harbour Bulletin',
}
const SHOWN = 50

const styles = `
  body { margin: 0 auto; max-width: 60em; padding: 1em 1.5em 4em; font: 16px/1.5 Georgia, serif; color: #1c2b33; background: #f4f1e8; }
  h1 { font-weight: normal; } h2 { margin-top: 2em; border-bottom: 2px solid #8a7a4d; font-weight: normal; }
  table { border-collapse: collapse; width: 100%; background: #fff; } th, td { padding: .3em .6em; border: 1px solid #cfc6ac; text-align: start; }
  code { font-size: 14px; overflow-wrap: anywhere; } form { display: inline; } button { font: inherit; }
  details { margin: 1em 0; } .troubles { display: grid; grid-template-columns: repeat(auto-fill, minmax(17em, 1fr)); gap: .3em; }
  .on button { background: #8f1d2c; color: #fff; }
`

/** All that the pretend services hold, with the switches of what can be made wrong. */
export function servicePage(holdings: Holdings): HtmlEscapedString | Promise<HtmlEscapedString> {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width" />
        <title>Pretend list services</title>
        <style>
          ${styles}
        </style>
      </head>
      <body>
        <h1>Pretend list services</h1>
        <p>Three services that do not exist, each spoken to differently. What Ask Box hands over is seen here.</p>
        ${services.map((service) => onePart(holdings, service))}
        <h2>Posted here</h2>
        ${
          holdings.told.length === 0
            ? html`<p>Nothing yet. Webhooks go to <code>/hooks/…</code>, forms to <code>/forms/…</code>.</p>`
            : html`<table>
                ${holdings.told.slice(0, SHOWN).map(
                  ({ at, to, text }) =>
                    html`<tr>
                      <td>${at}</td>
                      <td>${to}</td>
                      <td><code>${text}</code></td>
                    </tr>`,
                )}
              </table>`
        }
      </body>
    </html>`
}

function onePart(holdings: Holdings, service: Service) {
  const press = (path: string, values: Record<string, string>, words: string) =>
    html`<form method="post" action="/${service}/own/${path}">
      ${Object.entries(values).map(([name, value]) => html`<input type="hidden" name="${name}" value="${value}" />`)}
      <button>${words}</button>
    </form>`
  return html`<section id="${service}">
    <h2>${serviceNames[service]}</h2>
    ${service === 'kettle' ? html`<p>Account number <code>${KETTLE_ACCOUNT}</code></p>` : ''}
    <h3>Keys</h3>
    <ul>
      ${holdings
        .keys(service)
        .map(
          ({ text, canWrite }) =>
            html`<li>
              <code>${text}</code> ${canWrite ? '' : '(reads only)'} ${press('withdraw', { key: text }, 'Withdraw')}
            </li>`,
        )}
    </ul>
    <form method="post" action="/${service}/own/tell">
      <p>
        <label>Tells of who left: <input name="address" size="50" value="${holdings.tellsTo(service)}" /></label>
        <button>Keep</button>
      </p>
    </form>
    ${service === 'harbour' ? 'Made when you sign in.' : [press('key', { writes: 'yes' }, 'Make a key'), press('key', { writes: 'no' }, 'Make a key that reads only')]}
    ${holdings.lists(service).map(
      (list) =>
        html`<h3>${list.name} <small>(${list.id}, ${list.people.size})</small></h3>
          ${
            list.people.size === 0
              ? html`<p>Nobody.</p>`
              : html`<table>
                  <tr>
                    <th>Address</th>
                    <th>State</th>
                    <th>Fields</th>
                    <th>Tags</th>
                    <th></th>
                  </tr>
                  ${[...list.people.values()]
                    .slice(-SHOWN)
                    .reverse()
                    .map(
                      ({ email, state, values, tags }) =>
                        html`<tr>
                          <td>${email}</td>
                          <td>${state}</td>
                          <td>${Object.entries(values).map(([key, value]) => `${key}: ${value} `)}</td>
                          <td>${tags.join(', ')}</td>
                          <td>${state === 'off' ? '' : press('leave', { list: list.id, email }, 'Leaves')}</td>
                        </tr>`,
                    )}
                </table>`
          }`,
    )}
    <details>
      <summary>What can be made wrong</summary>
      <div class="troubles">
        ${Object.entries(troubles).map(([trouble, words]) => {
          const isOn = holdings.has(service, trouble as keyof typeof troubles)
          return html`<span class="${isOn ? 'on' : ''}"
            >${press('trouble', { trouble, on: isOn ? 'no' : 'yes' }, `${isOn ? 'End: ' : ''}${words}`)}</span
          >`
        })}
      </div>
    </details>
  </section>`
}
