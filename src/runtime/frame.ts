import type * as SeenModule from './seen'

/*
 * Tells the page around a frame what the form in it lives through, as the script on a page tells it by events: messages
 * `{ askbox: 'seen' | 'started' | 'joined' | 'message-sent', spot }` to the site that the spot is on, and to no other. On the answer's page it
 * tells that somebody joined. Whoever sees a frame is counted by the server; that somebody began, only a script can.
 */
const { spot, origin, outcome } = document.querySelector<HTMLElement>('script[data-spot]')!.dataset
const form = document.querySelector<HTMLFormElement>('form.askbox')
const tell = (name: string, more = {}) => {
  if (parent !== window && origin) parent.postMessage({ askbox: name, spot, ...more }, origin)
}
if (form === null) tell(outcome === 'message-sent' ? outcome : 'joined', { outcome })
else {
  for (const name of ['seen', 'started']) form.addEventListener(`askbox:${name}`, () => tell(name))
  const base = form.action.slice(0, form.action.lastIndexOf('/join/') + 1)
  void import(/* @vite-ignore */ `${base}seen.js`).then(({ watch }: typeof SeenModule) => watch(form, false, true))
}
