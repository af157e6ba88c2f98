import * as oauth from 'oauth4webapi'
import { originsOf, type ServiceFile } from '#core/connection'
import type { ConnectionId } from '#core/ids'
import type { Ledger } from '../ledger'
import { guardedRequest } from '../outside'
import type { Sealing } from '../secrets'
import { inTurn } from '../work'
import type { ApiWay } from './client'
import type { Key, Keys } from './keys'

type OAuthKey = Extract<ServiceFile['key'], { way: 'oauth' }>

/** How long somebody may take to sign in. */
const SIGNED_IN_WITHIN_MS = 15 * 60_000
/** A key is refreshed so long before it ends. */
const EARLY_MS = 60_000
/** So long another receiver's refreshing is waited for. */
const REFRESH_MS = 20_000

/** State of a sign-in between leaving and coming back, sealed. */
interface Begun {
  connection: ConnectionId
  verifier: string
  way: ApiWay
}

/** Signing in at a service: OAuth 2.0 (RFC 6749) with PKCE (RFC 7636). */
export class SignIns {
  private readonly refreshing = new Map<string, Promise<Key | null>>()

  constructor(
    private readonly parts: {
      ledger: Ledger
      keys: Keys
      sealing: Sealing
      /** Where visitors, and the service, reach this receiver. */
      publicUrl: string
      allowed: readonly string[]
      now(): number
    },
  ) {}

  private get redirect(): string {
    return `${this.parts.publicUrl}/signed-in`
  }

  /** Where the owner's browser goes to sign in; it comes back to `/signed-in`. */
  async begin(connection: ConnectionId, way: ApiWay): Promise<string> {
    const key = way.service.key as OAuthKey
    const verifier = oauth.generateRandomCodeVerifier()
    const state = oauth.generateRandomState()
    const begun: Begun = { connection, verifier, way }
    const name = `sign-in ${state}`
    const { ledger, sealing, now } = this.parts
    await ledger.values.keep(name, sealing.seal(JSON.stringify(begun), name), now() + SIGNED_IN_WITHIN_MS)
    const address = new URL(key.authorize)
    for (const [parameter, value] of Object.entries({
      response_type: 'code',
      client_id: key.client,
      redirect_uri: this.redirect,
      code_challenge: await oauth.calculatePKCECodeChallenge(verifier),
      code_challenge_method: 'S256',
      state,
      ...(key.scope !== undefined && { scope: key.scope }),
    }))
      address.searchParams.set(parameter, value)
    return address.href
  }

  /** The owner came back. Each way there is gone once. */
  async end(answer: URLSearchParams): Promise<{ ok: true; connection: ConnectionId } | { ok: false; said: string }> {
    const { ledger, sealing, keys } = this.parts
    const name = `sign-in ${answer.get('state') ?? ''}`
    const sealed = await ledger.values.value(name)
    await ledger.values.drop(name)
    const text = typeof sealed === 'string' ? sealing.open(sealed, name) : null
    if (text === null) return { ok: false, said: 'This way of signing in is over. Begin again.' }
    const { connection, verifier, way } = JSON.parse(text) as Begun
    const { server, client } = this.sides(way)
    try {
      const parameters = oauth.validateAuthResponse(server, client, answer, answer.get('state') ?? '')
      const response = await oauth.authorizationCodeGrantRequest(
        server,
        client,
        oauth.None(),
        parameters,
        this.redirect,
        verifier,
        this.options(),
      )
      const tokens = await oauth.processAuthorizationCodeResponse(server, client, response)
      await keys.keep(connection, this.keyOf(tokens, null, way))
      return { ok: true, connection }
    } catch (error) {
      return { ok: false, said: wordsOf(error) }
    }
  }

  /** What opens a service now: its key, or a fresh one where somebody signed in. */
  keyFor(id: ConnectionId, way: ApiWay): Promise<Key | null> {
    return way.service.key.way === 'oauth' ? this.freshKey(id, way) : this.parts.keys.key(id)
  }

  /** The key of a connection, had anew where it is about to end; null where there is none or none can be had. */
  freshKey(id: ConnectionId, way: ApiWay): Promise<Key | null> {
    const running = this.refreshing.get(id)
    if (running !== undefined) return running
    const fresh = this.refreshedInTurn(id, way).finally(() => this.refreshing.delete(id))
    this.refreshing.set(id, fresh)
    return fresh
  }

  /** One receiver at a time: a refresh token is good for one use. */
  private async refreshedInTurn(id: ConnectionId, way: ApiWay): Promise<Key | null> {
    const { keys, now, ledger } = this.parts
    const key = await keys.key(id)
    if (key?.until === undefined || key.refresh === undefined || key.until - EARLY_MS > now()) return key
    return inTurn(ledger.queue.turn(`fresh key ${id}`), REFRESH_MS, () => this.refreshed(id, way)).catch(() => key)
  }

  private async refreshed(id: ConnectionId, way: ApiWay): Promise<Key | null> {
    const { keys, now } = this.parts
    const key = await keys.key(id)
    // Another receiver may have had one meanwhile.
    if (key?.until === undefined || key.refresh === undefined || key.until - EARLY_MS > now()) return key
    const { server, client } = this.sides(way)
    // What another one is had for goes nowhere else either.
    if (!key.origins.includes(new URL(server.token_endpoint!).origin)) return key
    try {
      const response = await oauth.refreshTokenGrantRequest(server, client, oauth.None(), key.refresh, this.options())
      const fresh = this.keyOf(await oauth.processRefreshTokenResponse(server, client, response), key, way)
      await keys.keep(id, fresh)
      return fresh
    } catch {
      // The old one may go on; where not, the service says so.
      return key
    }
  }

  private sides({ service }: ApiWay): { server: oauth.AuthorizationServer; client: oauth.Client } {
    const key = service.key as OAuthKey
    return {
      server: { issuer: new URL(key.authorize).origin, token_endpoint: key.token },
      client: { client_id: key.client },
    }
  }

  private keyOf(tokens: oauth.TokenEndpointResponse, before: Key | null, way: ApiWay): Key {
    const refresh = tokens.refresh_token ?? before?.refresh
    return {
      text: tokens.access_token,
      // Of a refreshed one, those that were signed in for.
      origins: before?.origins ?? originsOf(way),
      ...(refresh !== undefined && { refresh }),
      ...(tokens.expires_in !== undefined && { until: this.parts.now() + tokens.expires_in * 1000 }),
    }
  }

  /** Its requests go where all others go: through the guarded one. */
  private options() {
    return {
      [oauth.allowInsecureRequests]: true,
      [oauth.customFetch]: async (address: string, init: oauth.CustomFetchOptions<'POST', URLSearchParams>) => {
        const { status, headers, body } = await guardedRequest(address, {
          method: init.method,
          headers: { ...init.headers, 'content-type': 'application/x-www-form-urlencoded' },
          body: Buffer.from(init.body.toString()),
          isFollowed: false,
          allowed: this.parts.allowed,
        })
        return new Response(body.toString('utf8'), {
          status,
          headers: Object.entries(headers).flatMap(([name, values = []]) =>
            name === 'content-encoding' ? [] : values.map((value): [string, string] => [name, value]),
          ),
        })
      },
    }
  }
}

function wordsOf(error: unknown): string {
  if (error instanceof oauth.AuthorizationResponseError || error instanceof oauth.ResponseBodyError)
    return error.error_description ?? error.error
  return error instanceof Error ? error.message : String(error)
}
