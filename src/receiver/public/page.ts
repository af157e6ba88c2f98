import { randomInt } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { type Context, Hono } from 'hono'
import { fileName, pageAddress, pageFile } from '#core/embed'
import {
  type Answer,
  type AnswerCase,
  answersInPlaceOf,
  answerTo,
  type FormContent,
  ourAnswer,
  picturesIn,
  type Version,
} from '#core/form'
import { SHIPPED_FONT_PATH } from '#core/look'
import { dataAddress } from '#core/picture'
import type { CameFrom } from '#core/journal'
import { cameFrom, MAX_LINE_LENGTH } from '#core/signup'
import {
  closedPage,
  type FormState,
  framePage,
  landingPage,
  noticePage,
  type PlacedForm,
  wiredClosed,
  wiredForm,
} from '#core/render'
import { isBroughtByScript, type PopUp, type Spot, startPopUp } from '#core/spot'
import { addressProblem } from '#core/site'
import { keepableText } from '#core/text'
import { complain } from '../log'
import type { VisitorParts } from '../subject'
import { deviceOfBrowser, isCounted } from '../results'
import { sendPage } from '../pages'
import type { Ledger } from '../ledger'
import { REHEARSAL_HEADER } from '#core/rehearsal'
import { rehearsalOf } from '../rehearsals'
import { spotHeldAs } from './rehearsed-spot'
import { framesOf, postsOf } from './join'
import { validatorOf } from '../http/validator'
import { hasRules } from './rules'
import { visitorAddress } from '../http/visitor-address'
import { frameTells } from './frame-tells'
import { wayBack } from './way-back'

/** The visitors' script, and the scripts that it loads on demand. */
export const visitorScripts = [
  'askbox.js',
  'pop-up.js',
  'puzzle.js',
  'spelling.js',
  'again.js',
  'seen.js',
  'frame.js',
  'sending.js',
  'onward.js',
  'restore.js',
  'late.js',
  'rules.js',
  'place.js',
]
/** Ends the visitors' script while there are rules: without it no page asks for any. */
const ASKS_FOR_RULES =
  ';document.currentScript&&import(new URL("rules.js",document.currentScript.src).href).catch(()=>{})'
/** The signed note of this view; `askbox.js` puts it into the form. */
const VIEW_HEADER = 'Askbox-View'
const A_YEAR = 'public, max-age=31536000, immutable'

/**
 * What visitors get besides answers: `GET /page/:spot` (the form as a page of its own), `GET /file/:spot` (the same as a
 * file to save), `GET /frame/:spot` (the form alone), `GET /picture/:id`,
 * `GET /askbox.js` with what it fetches beside it, the shipped font, and `GET /form/:spot.json` (the form as nodes, for
 * the script).
 *
 * @param files folder of the built script and font; null when there is none
 */
export function pageRoutes({
  ledger,
  settings,
  rehearsals,
  counting,
  files,
}: Pick<VisitorParts, 'ledger' | 'settings' | 'rehearsals' | 'counting' | 'files'>): Hono {
  const routes = new Hono()
  /** Counts a page that is sent, and tells its note; rehearsals and the owner's own looks are none. */
  const count = async (
    c: Context,
    { spot, version }: { spot: Spot; version: Version },
    origin: CameFrom,
  ): Promise<string> => {
    if (!isVisit(c)) return ''
    const view = await counting.newView(spot.id, version.number)
    const address = visitorAddress(c, settings.trustedProxies)
    counting.served(view, { cameFrom: origin, device: deviceOfBrowser(c), address }).catch(complain)
    return view.note
  }
  /** Whether somebody looks whose views are counted. */
  const isVisit = (c: Context): boolean =>
    // Nothing is shown to anybody by HEAD.
    c.req.method !== 'HEAD' &&
    c.req.header(REHEARSAL_HEADER) === undefined &&
    c.req.query('rehearsal') === undefined &&
    !c.req.header('Referer')?.startsWith(`${settings.publicUrl}/`) &&
    isCounted(c)
  const found = async (c: Context, id: string) => {
    const published = ledger.published()
    const asked = await rehearsalOf(c.req.header(REHEARSAL_HEADER), rehearsals)
    const as = asked === null || asked === 'refused' ? null : asked.as
    const spot = spotHeldAs(published.spot(id) ?? published.spotAt(id), as)
    // A rehearsal is shown what is published, whatever is tried beside it, or the wording that it asks for.
    const isTrying = spot !== undefined && asked === null && c.req.query('rehearsal') === undefined
    const wished = asked === null || asked === 'refused' ? null : asked.wording
    const isWording = (number: number) => published.trialAt(spot!.id)?.wordings.some((one) => one.version === number)
    const version =
      spot &&
      ((isTrying && wordingShown(spot, Number(c.req.query('version')))) ||
        (wished !== null && isWording(wished) && published.version(spot.form, wished)) ||
        published.latestVersion(spot.form))
    return spot === undefined || version === undefined ? null : { spot, version }
  }

  /** Of a trial that goes on: the wording that a browser keeps, or one by chance. */
  const wordingShown = (spot: Spot, keptVersion: number): Version | undefined => {
    const published = ledger.published()
    const trial = published.trialAt(spot.id)
    if (trial === undefined) return undefined
    const versions = trial.wordings.map(({ version }) => version)
    const isKept = trial.isKept && versions.includes(keptVersion)
    return published.version(spot.form, isKept ? keptVersion : versions[randomInt(versions.length)]!)
  }

  const placed = ({ spot, version }: { spot: Spot; version: Version }): PlacedForm => ({
    content: version.content,
    form: version.form,
    version: version.number,
    spot: spot.id,
    receiver: settings.publicUrl,
    answers: answersByScript(version.content),
  })
  /** By version, then by spot: what every page with the script on it asks for. */
  const wired = new WeakMap<Version, WeakMap<Spot, { body: string; validator: string; around: string }>>()
  const wiredJson = ({ spot, version }: { spot: Spot; version: Version }) => {
    const bySpot = wired.get(version) ?? new WeakMap()
    wired.set(version, bySpot)
    const published = ledger.published()
    const list = published.latestVersion(spot.form)?.list
    const popUps = published
      .liveSpots()
      .filter(
        (one) => asksNobodyWhoJoined(one) && one.site === spot.site && published.latestVersion(one.form)?.list === list,
      )
      .map(({ id }) => id)
    const rendered = bySpot.get(spot)
    const trial = version.isTried === true ? published.trialAt(spot.id) : undefined
    const [isTried, isKept] = [trial !== undefined, trial?.isKept === true]
    const around = JSON.stringify([popUps, isKept, isTried])
    if (rendered?.around === around) return rendered
    const body = JSON.stringify({
      spot: spot.id,
      state: spot.state,
      version: version.number,
      ...(spot.state === 'live' && wiredForm(placed({ spot, version }), overPage(spot))),
      // Nobody asked for what comes by itself, so nothing is said of it.
      ...(spot.state === 'paused' && !isBroughtByScript(spot) && wiredClosed(placed({ spot, version }), spot.state)),
      ...(spot.kind === 'pop-up' && { popUp: spot.popUp ?? startPopUp }),
      ...(popUps.length > 0 && { popUps }),
      ...(isKept && { isKept }),
      ...(isTried && { isTried }),
    })
    const made = { body, validator: validatorOf(body), around }
    bySpot.set(spot, made)
    return made
  }

  routes.get('/page/:spot', async (c) => {
    const here = await found(c, c.req.param('spot'))
    if (here === null)
      return sendPage(
        c,
        settings.publicUrl,
        noticePage('Nothing here', 'There is no such page. The address may be incomplete.'),
        { posts: 'nothing', status: 404, inFrames: false },
      )
    const { spot, version } = here
    if (spot.state !== 'live')
      return sendPage(c, settings.publicUrl, closedPage(version.content, spot.state, wayBack(ledger, spot, c)), {
        posts: 'nothing',
        status: 410,
        inFrames: false,
      })
    const origin = cameFrom(c.req.url, c.req.header('Referer') ?? '')
    const view = await count(c, here, origin)
    return sendPage(
      c,
      settings.publicUrl,
      landingPage(
        placed(here),
        { ...fromAddress(c, version.content), cameFrom: keepable(origin), view, isOnOurPage: true },
        {
          address: pageAddress(settings.publicUrl, spot.slug ?? spot.id),
          site: wayBack(ledger, spot, c),
          privacy: privacyOf(ledger, spot),
        },
      ),
      {
        posts: postsOf(version.content),
        frames: framesOf(version.content),
        withScript: true,
        inFrames: false,
      },
    )
  })

  routes.get('/file/:spot', async (c) => {
    const here = await found(c, c.req.param('spot'))
    if (here === null || here.spot.state !== 'live') return c.text('Not found', 404)
    const { spot, version } = here
    const site = ledger.published().site(spot.site) ?? null
    const pictures = new Map<string, string>()
    for (const id of picturesIn(version.content)) {
      const picture = await ledger.picture(id)
      if (picture !== null) pictures.set(id, dataAddress(picture))
    }
    const html = pageFile({ spot, version, site, receiver: settings.publicUrl }, (id) => pictures.get(id))
    // To be saved, not shown: from here it would be one more page at the receiver's address.
    return c.body(html, 200, {
      'Content-Type': 'text/html; charset=utf-8',
      'Content-Disposition': `attachment; filename="${fileName(spot)}.html"`,
      'Cache-Control': 'no-cache',
      'X-Content-Type-Options': 'nosniff',
      'Content-Security-Policy': 'sandbox',
    })
  })

  routes.get('/frame/:spot', async (c) => {
    const here = await found(c, c.req.param('spot'))
    if (here === null)
      return sendPage(
        c,
        settings.publicUrl,
        noticePage('Nothing here', 'There is no such form. The address may be incomplete.'),
        { posts: 'nothing', status: 404 },
      )
    const { spot, version } = here
    if (spot.state !== 'live')
      return sendPage(c, settings.publicUrl, closedPage(version.content, spot.state, null), {
        posts: 'nothing',
        status: 410,
      })
    // The page around the frame; what led there, no browser tells a frame.
    const page = c.req.header('Referer') ?? ''
    const origin = cameFrom(page, '')
    const view = await count(c, here, origin)
    const tells = frameTells(ledger, settings.publicUrl, spot)
    return sendPage(
      c,
      settings.publicUrl,
      framePage(
        placed(here),
        {
          ...fromAddress(c, version.content),
          ...{ page: keepableText(page, 2_000), cameFrom: keepable(origin), view, isOnOurPage: true },
        },
        tells,
      ),
      {
        posts: postsOf(version.content),
        withScript: true,
        frames: framesOf(version.content),
      },
    )
  })

  routes.get('/picture/:id', async (c) => {
    const id = c.req.param('id')
    const isShown = ledger.published().showsPicture(id) || (await ledger.letters.isPicture(id))
    const picture = isShown ? await ledger.picture(id) : null
    if (picture === null) return c.text('Not found', 404)
    // Named after its bytes, so the name never changes its meaning; never anything a browser would run.
    return c.body(Buffer.from(picture.bytes, 'base64'), 200, {
      'Content-Type': picture.type,
      'Cache-Control': A_YEAR,
      'X-Content-Type-Options': 'nosniff',
      'Content-Security-Policy': "default-src 'none'; sandbox",
      'Cross-Origin-Resource-Policy': 'cross-origin',
    })
  })

  routes.get('/form/:name{[a-z0-9-]+\\.json}', async (c) => {
    const here = await found(c, c.req.param('name').replace(/\.json$/, ''))
    if (here === null)
      return c.json({ type: 'about:blank', title: 'No such form', status: 404 }, 404, {
        'Content-Type': 'application/problem+json',
        'Access-Control-Allow-Origin': '*',
      })
    // Pasted forms are checked by what held when they were pasted.
    const asked = ledger.published().version(here.spot.form, Number(c.req.query('version')))
    // What was only tried is shown while it is, and only by whom `found` shows it.
    const version = asked === undefined || asked.isTried ? here.version : asked
    const { body, validator } = wiredJson({ spot: here.spot, version })
    // Each change shows at once, and what did not change is not sent again.
    const isLive = here.spot.state === 'live'
    const headers = {
      ...{ 'Access-Control-Allow-Origin': '*', 'Cache-Control': 'no-cache', ETag: validator },
      // In a header, which comes with each answer: the body may be one from before (RFC 9111, 3.2).
      ...(isLive && isVisit(c) && { [VIEW_HEADER]: (await counting.newView(here.spot.id, version.number)).note }),
      'Access-Control-Expose-Headers': VIEW_HEADER,
    }
    return c.req.header('If-None-Match')?.replace(/^W\//, '') === validator
      ? c.body(null, 304, headers)
      : c.body(body, 200, { ...headers, 'Content-Type': 'application/json; charset=utf-8' })
  })

  const file = (c: Context, name: string, type: string, caching: string) => {
    const path = files === null ? null : join(files, name)
    if (path === null || !existsSync(path)) return c.text('Not found', 404)
    const asBuilt = readFileSync(path)
    const bytes =
      name === 'askbox.js' && hasRules(ledger) ? Buffer.concat([asBuilt, Buffer.from(ASKS_FOR_RULES)]) : asBuilt
    const validator = validatorOf(bytes)
    const headers = {
      'Cache-Control': caching,
      'X-Content-Type-Options': 'nosniff',
      'Access-Control-Allow-Origin': '*',
      // Pages that let in only what says that it may be used anywhere.
      'Cross-Origin-Resource-Policy': 'cross-origin',
      ETag: validator,
    }
    // Compressing makes it a weak one.
    return c.req.header('If-None-Match')?.replace(/^W\//, '') === validator
      ? c.body(null, 304, headers)
      : c.body(bytes, 200, { ...headers, 'Content-Type': type })
  }
  for (const name of visitorScripts)
    routes.get(`/${name}`, (c) => file(c, name, 'text/javascript; charset=utf-8', 'public, max-age=600'))
  routes.get(SHIPPED_FONT_PATH, (c) => file(c, 'ask-box-sans.woff2', 'font/woff2', 'public, max-age=604800'))
  return routes
}

/** What the script answers with: the owner's words, or ours beside a page of the owner's, for frames that let nobody out. */
function answersByScript(content: FormContent): PlacedForm['answers'] {
  const said = (one: AnswerCase): Answer => {
    const answer = answerTo(content, one)
    return answer.show === 'address' ? { ...answer, ...ourAnswer(one, content.language, false) } : answer
  }
  const refused = content.answers['not-possible'] === undefined ? [] : (['not-possible'] as const)
  return Object.fromEntries([...answersInPlaceOf(content), ...refused].map((one) => [one, said(one)]))
}

/** Where over the page a spot's form is, if it is. */
function overPage({ kind, popUp, code, placing }: Spot): PopUp['position'] | 'edge' | null {
  if (kind === 'pop-up') return (popUp ?? startPopUp).position
  return code === 'rule' && placing?.published?.place.kind === 'edge' ? 'edge' : null
}

function asksNobodyWhoJoined({ kind, code, placing }: Spot): boolean {
  return kind === 'pop-up' || (code === 'rule' && placing?.published?.who.joined === 'not-asked')
}

/** Address of the privacy notice of a spot's site, or null. */
function privacyOf(ledger: Ledger, spot: Spot): string | null {
  const { privacy = '' } = ledger.published().site(spot.site) ?? {}
  return addressProblem(privacy) === null ? new URL(privacy.trim()).href : null
}

/** Hidden values that the page's own address carries. */
function fromAddress(c: Context, { fields }: FormContent): FormState {
  const values = fields.flatMap((field) =>
    field.kind === 'hidden' && field.source === 'page-address'
      ? [[field.key, keepableText(c.req.query(field.value) ?? '', MAX_LINE_LENGTH)] as const]
      : [],
  )
  return {
    values: Object.fromEntries(values),
    errors: {},
  }
}

/** Whoever made the address, a post with these is never refused for a character in them. */
function keepable(origin: Record<keyof CameFrom, string>): CameFrom {
  return {
    source: keepableText(origin.source, MAX_LINE_LENGTH),
    campaign: keepableText(origin.campaign, MAX_LINE_LENGTH),
    referrer: keepableText(origin.referrer, MAX_LINE_LENGTH),
  }
}
