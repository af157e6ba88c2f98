import { randomBytes } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { type ProofId, spellId } from '#core/ids'
import { caseIds } from '#core/proof'
import { makeProof, type RehearsalSubject } from '#core/rehearsal'
import { clientFor } from '../../src/workshop/client'

/*
 * `rehearser.ts <receiver> <key> <file of subjects as JSON> [for ever]`: rehearses spots as a workshop does, but for its browser, in a
 * process of its own. Prints the milliseconds of each; with a third argument it goes on until it is ended.
 */
const [receiver = '', key = '', file = '', forEver] = process.argv.slice(2)
const client = clientFor({ receiver, key })
const subjects = (JSON.parse(readFileSync(file, 'utf8')) as RehearsalSubject[]).map((one) => ({
  ...one,
  others: new Map(),
}))

console.log('ready')
do {
  for (const subject of subjects) {
    const { code } = await client.startRehearsal(subject.spot.id)
    const proof = await makeProof(
      subject,
      caseIds,
      {
        now: () => performance.now(),
        code,
        unique: () => spellId(randomBytes(12)),
        fetch: (address, as) => client.fetchForRehearsal(code, address, as),
        send: ({ address, contentType, body }, as) =>
          client.sendForRehearsal(code, { address, contentType, body: Buffer.from(body).toString('base64'), as }),
        member: (email) => client.lookUpForRehearsal(code, email),
        mails: (email) => client.mailsForRehearsal(code, email),
        download: (address) => client.downloadForRehearsal(code, address),
        expire: async (email) => void (await client.expireForRehearsal(code, email)),
        pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
        today: () => Date.now(),
        browser: null,
      },
      { id: 'benchproof' as ProofId, at: new Date().toISOString(), by: 'workshop' },
    )
    await client.endRehearsal(code)
    console.log(`${proof.verdict} ${proof.ms}`)
  }
} while (forEver !== undefined)
