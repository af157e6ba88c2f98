import { api } from '#core/api'
import type { OpenAPIHono } from '@hono/zod-openapi'
import { parseEmail } from '#core/email'
import {
  bytesOf,
  codeMail,
  findingsOf,
  lookFor,
  newCode,
  openTransport,
  refusalOf,
  stopLooking,
  throughOf,
  typedIn,
} from '..'
import { newId } from '../../random'
import type { MailApiParts } from './parts'
import { plainTest, sample, senderFor } from './sample'
import { mailState } from './state'
import { described } from '../../http/described'

const paths = described(api.mail)

/** Trials by mail: a test, a code to an own inbox, a message preview, a check of the sender. */
export function mailTryRoutes(routes: OpenAPIHono, parts: MailApiParts): void {
  const { ledger, settings, sender, now } = parts
  routes.openapi(paths.sendTest, async (c) => {
    const { to, message } = c.req.valid('json')
    const parsed = parseEmail(to)
    if (!parsed.ok) return c.json({ ok: false, said: parsed.problem.message }, 200)
    const server = await sender.server()
    if (server === null) return c.json({ ok: false, said: 'No mail server is set up yet.' }, 200)
    const transport = openTransport(server, (await sender.settings()).dkim)
    try {
      const mail =
        message === null
          ? plainTest(parsed.email.typed, settings.publicUrl, senderFor(settings, server))
          : await sample(parts, parsed.email.typed, message)
      return c.json({ ok: true, said: await transport.send(mail) }, 200)
    } catch (error) {
      return c.json({ ok: false, said: refusalOf(error).said }, 200)
    } finally {
      transport.close()
    }
  })

  routes.openapi(paths.sendCode, async (c) => {
    const { list: id, to } = c.req.valid('json')
    const parsed = parseEmail(to)
    if (!parsed.ok) return c.json({ ok: false, said: parsed.problem.message }, 200)
    const [list, mail, server] = [ledger.published().list(id), ledger.published().mail(id), await sender.server()]
    if (list === null || mail === null) return c.json({ ok: false, said: 'Publish the list’s mail first.' }, 200)
    if (server === null) return c.json({ ok: false, said: 'No mail server is set up yet.' }, 200)
    const code = newCode()
    const transport = openTransport(server, (await sender.settings()).dkim)
    try {
      const said = await transport.send(codeMail(mail, list, { id: `code-${newId()}`, to: parsed.email.typed }, code))
      const sent = {
        list: id,
        to: parsed.email.typed,
        code,
        sentAt: now(),
        arrivedAt: null,
        wrongTries: 0,
        through: throughOf(mail, server),
      }
      await sender.change(({ ownInboxes }) => ({
        ownInboxes: [...ownInboxes.filter((one) => one.list !== id), sent],
      }))
      return c.json({ ok: true, said }, 200)
    } catch (error) {
      return c.json({ ok: false, said: refusalOf(error).said }, 200)
    } finally {
      transport.close()
    }
  })

  routes.openapi(paths.typeCode, async (c) => {
    const { list, code } = c.req.valid('json')
    let outcome: 'arrived' | 'wrong' | 'none' = 'none'
    await sender.change((before) => {
      const typed = typedIn(before, list, code, now())
      outcome = typed.outcome
      return { ownInboxes: typed.ownInboxes }
    })
    const said = {
      arrived: 'It arrived.',
      wrong: 'That is not the code. Look once more.',
      none: 'No code waits to be typed in: send one.',
    }[outcome as 'arrived' | 'wrong' | 'none']
    return c.json({ ok: (outcome as string) === 'arrived', said }, 200)
  })

  routes.openapi(paths.writeMessage, async (c) => {
    const { to, list, settings: mail, kind } = c.req.valid('json')
    return c.json(
      { eml: (await bytesOf(await sample(parts, to, { list, settings: mail, kind }))).toString('base64') },
      200,
    )
  })

  routes.openapi(paths.checkSenderRoute, async (c) => {
    return c.json({ findings: await findingsOf(parts, c.req.valid('query')) }, 200)
  })

  routes.openapi(paths.awaitRecords, async (c) => {
    const { look, ...who } = c.req.valid('json')
    await (look ? lookFor(parts, who) : stopLooking(parts, who))
    return c.json(await mailState(parts), 200)
  })
}
