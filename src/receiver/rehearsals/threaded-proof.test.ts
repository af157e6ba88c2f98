import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Proof } from '#core/proof'
import { NoAnswer, type Ports } from '#core/rehearsal'
import { makeProofInThread, type RehearsalTask, ThoughtTooLong } from './threaded-proof'
import { withBase } from './with-base'

/** In place of the built thread: asks for a page and tells of it, or thinks for ever about it. */
const thread = join(mkdtempSync(join(tmpdir(), 'ask-box-thread-')), 'thread.cjs')
writeFileSync(
  thread,
  `const { parentPort, workerData } = require('node:worker_threads')
  parentPort.on('message', ({ result, noAnswer, failed }) => {
    if (result === 'endless') for (;;);
    parentPort.postMessage({ kind: 'done', proof: { result, noAnswer, failed } })
  })
  parentPort.postMessage({ kind: 'ask', n: 1, name: 'fetch', args: ['https://page.example/'] })`,
)
const task = { code: 'a' } as RehearsalTask
const proofBy = (fetch: () => Promise<unknown>, ms?: number): Promise<Proof> =>
  makeProofInThread(thread, task, { fetch } as unknown as Ports, ms)

test('what the thread asks is answered, also that there is no answer', async () => {
  expect(await proofBy(async () => 'a page')).toEqual({ result: 'a page' })
  expect(await proofBy(async () => Promise.reject(new NoAnswer('nobody there')))).toEqual({ noAnswer: 'nobody there' })
  expect(await proofBy(async () => Promise.reject(new Error('broken')))).toEqual({ failed: 'broken' })
})

test('a page that is thought about for ever ends its rehearsal and nothing else', async () => {
  await expect(proofBy(async () => 'endless', 500)).rejects.toThrow(ThoughtTooLong)
})

describe('a page of repeated openings, 3 MB, gets its base', () => {
  // Not timed: what looks at the rest of the page from each opening takes hours for one of these.
  test.each([
    '<base ',
    '<base',
    '<head ',
    '<head',
    '<!--',
    '<script>',
    '<',
    '<a href="',
    '<base href ',
    '<head\t',
    '</head ',
    '<base x="',
    '&',
  ])('of “%s”', (opening) => {
    const html = opening.repeat(Math.floor(3_000_000 / opening.length))
    expect(withBase(html, 'https://page.example/a').length).toBeGreaterThanOrEqual(html.length)
  })
  test.each([
    ['<html><head><title>x</title>', '<html><head><base href="https://page.example/?a&amp;b"><title>x</title>'],
    ['<html><HEAD lang=en>', '<html><HEAD lang=en><base href="https://page.example/?a&amp;b">'],
    ['<p>x', '<base href="https://page.example/?a&amp;b"><p>x'],
    ['<head><BASE target=_top HREF="/b">', '<head><BASE target=_top HREF="/b">'],
    ['<header>x', '<base href="https://page.example/?a&amp;b"><header>x'],
    ['<head><base target=_top>', '<head><base href="https://page.example/?a&amp;b"><base target=_top>'],
  ])('%s', (html, expected) => expect(withBase(html, 'https://page.example/?a&b')).toBe(expected))
})
