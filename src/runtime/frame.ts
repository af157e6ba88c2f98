/*
 * Tells the page around a frame what the form in it lives through, as the script on a page tells it by events: messages
 * `{ askbox: 'seen' | 'started' | 'joined' | 'message-sent', spot }` to the site that the spot is on, and to no other. On the
 * answer's page, which comes where the form was sent without its script, it tells that somebody joined.
 */
const { spot, origin, outcome } = document.querySelector<HTMLElement>('script[data-spot]')!.dataset
const tell = (name: string, more = {}) => {
  if (parent !== window && origin) parent.postMessage({ askbox: name, spot, ...more }, origin)
}
if (outcome) tell(outcome === 'message-sent' ? outcome : 'joined', { outcome })
else
  for (const name of ['seen', 'started', 'joined', 'message-sent'])
    addEventListener(`askbox:${name}`, (event) => {
      const { outcome: how } = (event as CustomEvent<{ outcome?: string }>).detail
      tell(name, how && { outcome: how })
    })
export {}
