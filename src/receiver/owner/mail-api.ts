import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { parseEmail } from '#core/email'
import type { ListId } from '#core/ids'
import { type MailSettings, type MessageKind, needsLink } from '#core/mail'
import type { GiftFiles } from '../gift-files'
import { type Ledger, MAIL, mailsInState } from '../ledger'
import {
  bytesOf,
  checkSender,
  codeMail,
  type ComposedMail,
  composeMessage,
  dkimRecord,
  makeDkim,
  newCode,
  openTransport,
  type MailServerSettings,
  refusalOf,
  type ResolveTxt,
  type Sender,
  type SmtpServer,
  type StandInMailbox,
  throughOf,
  typedIn,
} from '../mail'
import type { RehearsalMailParts } from '../rehearsal'
import { sendProblem } from '../problem'
import { newId } from '../random'
import type { Settings } from '../settings'
import {
  behaveMailbox,
  checkSenderRoute,
  emptyMailbox,
  goOn,
  keepDkim,
  keepMailServer,
  keepPace,
  listBoxes,
  listMails,
  type MailState,
  putBackMarked,
  readBox,
  readMailState,
  sendCode,
  sendTest,
  tryMailAgain,
  typeCode,
  writeMessage,
} from './mail-routes'

export interface MailApiParts {
  ledger: Ledger
  settings: Settings
  sender: Sender
  gifts: GiftFiles
  /** Null where no stand-in mailbox runs. */
  mailbox: StandInMailbox | null
  isStandIn(server: SmtpServer): boolean
  resolveTxt: ResolveTxt
  now(): number
  rehearsalMail: RehearsalMailParts
}

export function mailApiRoutes(
  routes: OpenAPIHono,
  { ledger, settings, sender, mailbox, isStandIn, resolveTxt, now }: MailApiParts,
): void {
  const { queue } = ledger
  const state = async (): Promise<MailState> => {
    const kept = await sender.settings()
    const server = await sender.server()
    const counts = await queue.counts(MAIL)
    const isFixed = settings.smtpServer !== null
    return {
      server:
        server === null
          ? null
          : {
              host: server.host,
              port: server.port,
              security: server.security,
              user: server.user,
              hasPassword: server.password !== '',
            },
      from: server === null ? null : isFixed ? 'environment' : 'screen',
      isStandIn: server !== null && isStandIn(server),
      hasMailbox: mailbox !== null,
      pace: kept.pace,
      isStopped: kept.isStopped,
      halted: kept.halted,
      wronglyMarked: await ledger.countWronglyBounced(),
      dkim:
        kept.dkim === null
          ? null
          : { domain: kept.dkim.domain, selector: kept.dkim.selector, ...dkimRecord(kept.dkim) },
      counts: { waiting: counts.open, sent: counts.done, refused: counts.refused, dropped: counts.dropped },
      lastOutAt: await sender.lastOutAt(),
      delivery: await sender.deliveries(),
      ownInboxes: kept.ownInboxes.map(({ list, to, sentAt, arrivedAt, through }) => {
        const mail = ledger.published().mail(list)
        const isAsThen = mail !== null && server !== null && throughOf(mail, server) === through
        return { list, to, sentAt, arrivedAt, isAsThen }
      }),
    }
  }
  const keep = (changes: Partial<MailServerSettings>) => sender.change(() => changes)

  routes.openapi(readMailState, async (c) => c.json(await state(), 200))
  routes.openapi(listMails, async (c) =>
    c.json(
      {
        mails: (await mailsInState(queue, c.req.valid('query').state, 200)).map(
          ({ id, list, member, kind, recipient, queued, due, state: at, attempts, said }) => ({
            id,
            list,
            member,
            kind,
            recipient,
            queued,
            due,
            state: at,
            attempts,
            said,
          }),
        ),
      },
      200,
    ),
  )
  routes.openapi(tryMailAgain, async (c) => {
    const isQueued = await queue.tryAgain(c.req.valid('param').id)
    sender.wake()
    return c.json({ isQueued }, 200)
  })
  routes.openapi(keepMailServer, async (c) => {
    if (settings.smtpServer !== null)
      return sendProblem(c, {
        status: 409,
        title: 'Set elsewhere',
        detail: 'SMTP_URL sets the mail server of this receiver.',
      }) as never
    const { server } = c.req.valid('json')
    await sender.change((before) => ({
      server: server === null ? null : { ...server, password: server.password ?? before.server?.password ?? '' },
    }))
    // Another server has refused nobody yet.
    if ((await sender.settings()).halted !== null) await sender.goOn()
    return c.json(await state(), 200)
  })
  routes.openapi(keepPace, async (c) => {
    await keep(c.req.valid('json'))
    return c.json(await state(), 200)
  })
  routes.openapi(goOn, async (c) => {
    await sender.goOn()
    return c.json(await state(), 200)
  })
  routes.openapi(putBackMarked, async (c) => {
    const count = await ledger.putBackWronglyBounced()
    return c.json({ count, mail: await state() }, 200)
  })
  routes.openapi(keepDkim, async (c) => {
    const { domain } = c.req.valid('json')
    await keep({ dkim: domain === null ? null : makeDkim(domain, 'askbox') })
    return c.json(await state(), 200)
  })

  routes.openapi(sendTest, async (c) => {
    const { to, message } = c.req.valid('json')
    const parsed = parseEmail(to)
    if (!parsed.ok) return c.json({ ok: false, said: parsed.problem.message }, 200)
    const server = await sender.server()
    if (server === null) return c.json({ ok: false, said: 'No mail server is set up yet.' }, 200)
    const transport = openTransport(server, (await sender.settings()).dkim)
    try {
      const mail =
        message === null
          ? plainTest(parsed.email.typed, settings.publicUrl, senderFor(server))
          : await sample(parsed.email.typed, message.list, message.settings, message.kind)
      return c.json({ ok: true, said: await transport.send(mail) }, 200)
    } catch (error) {
      return c.json({ ok: false, said: refusalOf(error).said }, 200)
    } finally {
      transport.close()
    }
  })
  routes.openapi(sendCode, async (c) => {
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
  routes.openapi(typeCode, async (c) => {
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
  routes.openapi(writeMessage, async (c) => {
    const { to, list, settings: mail, kind } = c.req.valid('json')
    return c.json({ eml: (await bytesOf(await sample(to, list, mail, kind))).toString('base64') }, 200)
  })
  routes.openapi(checkSenderRoute, async (c) => {
    const query = c.req.valid('query')
    return c.json(
      { findings: await checkSender({ ...query, host: (await sender.server())?.host ?? null }, resolveTxt) },
      200,
    )
  })

  const noMailbox = (c: Context) =>
    sendProblem(c, {
      status: 404,
      title: 'No stand-in mailbox',
      detail: 'Mail goes to a real server here; there is no mailbox to look into.',
    }) as never
  routes.openapi(listBoxes, (c) =>
    mailbox === null ? noMailbox(c) : c.json({ boxes: mailbox.boxes(), behaviour: mailbox.behaviour() }, 200),
  )
  routes.openapi(readBox, (c) =>
    mailbox === null ? noMailbox(c) : c.json({ mails: mailbox.mails(c.req.valid('param').address) }, 200),
  )
  routes.openapi(behaveMailbox, (c) => {
    if (mailbox === null) return noMailbox(c)
    mailbox.behave(c.req.valid('json'))
    return c.json({ ok: true as const }, 200)
  })
  routes.openapi(emptyMailbox, (c) => {
    if (mailbox === null) return noMailbox(c)
    mailbox.empty()
    return c.json({ ok: true as const }, 200)
  })

  /** A message as it is in the owner's hands, to a made-up reader. Its links are nobody's. */
  async function sample(to: string, id: string, mail: MailSettings, kind: MessageKind): Promise<ComposedMail> {
    const list = ledger.published().list(id) ?? { id: id as ListId, name: 'Your list', why: '' }
    // Before there is a sender, one stands in, so that the message can be looked at.
    const sent = parseEmail(mail.senderAddress).ok ? mail : { ...mail, senderAddress: senderFor(await sender.server()) }
    const example = (path: string) => `${settings.publicUrl}/${path}/only-an-example`
    return composeMessage(
      sent,
      list,
      kind,
      { id: `test-${newId()}`, to },
      {
        firstName: 'Wren',
        link: needsLink.includes(kind) ? example(kind === 'leaving' ? 'leave' : 'confirm') : null,
        leaveLink: kind === 'welcome' || kind === 'already-there' ? example('leave') : null,
        giftLink: mail.gift === null ? null : example('gift'),
      },
    )
  }

  function senderFor(server: SmtpServer | null): string {
    if (server !== null && parseEmail(server.user).ok) return server.user
    return `test@${new URL(settings.publicUrl).hostname}`
  }
}

function plainTest(to: string, publicUrl: string, from: string): ComposedMail {
  return {
    messageId: `<test-${newId()}@${from.slice(from.lastIndexOf('@') + 1)}>`,
    from,
    to,
    envelope: { from, to },
    files: [],
    subject: 'It works: mail from Ask Box arrives',
    text: `This is a test. The mail server that you set up takes mail.\n\nSent by the receiver at ${publicUrl}\n`,
    headers: { 'Auto-Submitted': 'auto-generated' },
  }
}
