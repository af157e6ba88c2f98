import { createHash } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import type { BrowserContext, Download, Frame, Locator } from 'playwright-core'
import type { Obstacle, PressSeen } from '#core/rehearsal'
import { type Arrivals } from './arrivals'
import type { TypingPerson } from './person'
import { FORBIDS, shortly, trouble, until } from './waiting'

const ANSWER_MS = 12_000
const LOOK_EVERY_MS = 25
/** A page that just came may still be built. */
const THERE_MS = 4_000
/** Where nothing came of a press by then that the browser forbade, nothing will. */
const FORBIDDEN_MS = 1_500

/** Presses on pages of ours, one after the other, and what came of each: a page, or a file that the browser kept. */
export class Presses {
  private readonly files: Download[] = []

  constructor(
    context: BrowserContext,
    private readonly person: TypingPerson,
    private readonly arrivals: Arrivals,
    private readonly complaints: () => readonly string[],
  ) {
    const take = (file: Download) => this.files.push(file)
    for (const page of context.pages()) page.on('download', take)
    context.on('page', (page) => page.on('download', take))
  }

  /**
   * Brings something into sight and presses it; whatever it opens is gone on with.
   *
   * @param within a frame in which a page may come as well
   */
  async press(target: Locator, within: Frame | null = null): Promise<PressSeen> {
    const said = this.complaints().length
    const seen = (more: Partial<PressSeen>): PressSeen => ({
      ...{ page: null, file: null, obstacle: null },
      complaints: this.complaints().slice(said),
      ...more,
    })
    const isThere = await until(async () => (await target.count()) > 0 || null, THERE_MS * this.person.patience)
    if (isThere === null) return seen({ obstacle: { code: 'no-button', detail: '', markup: '' } })
    const at = await this.person.sight(target)
    if (!('area' in at)) return seen({ obstacle: at })
    const [pages, files] = [this.arrivals.count, this.files.length]
    try {
      await this.person.pressAt(at)
    } catch (error) {
      return seen({ obstacle: trouble(error, target.toString()) })
    }
    const pressedAt = performance.now()
    const end = pressedAt + ANSWER_MS * this.person.patience
    while (performance.now() < end) {
      const file = this.files[files]
      if (file !== undefined) return seen(await kept(file))
      const arrived = this.arrivals
        .after(pages)
        .findLast(({ frame }) => frame === within || frame.parentFrame() === null)
      if (arrived !== undefined) {
        const page = await this.arrivals.read(arrived)
        const window = arrived.frame.page()
        if (window !== this.person.page || within !== null) this.person.turnToPage(window)
        return seen({ page })
      }
      const isForbidden = this.complaints()
        .slice(said)
        .some((text) => FORBIDS.test(text))
      if (isForbidden && performance.now() - pressedAt > FORBIDDEN_MS * this.person.patience) break
      await this.person.rest(LOOK_EVERY_MS)
    }
    return seen({ obstacle: NOTHING })
  }
}

const NOTHING: Obstacle = { code: 'answer-missing', detail: 'nothing came of it', markup: '' }

async function kept(file: Download): Promise<Partial<PressSeen>> {
  try {
    const bytes = await readFile(await file.path())
    const sha256 = createHash('sha256').update(bytes).digest('hex')
    return { file: { name: file.suggestedFilename(), size: bytes.length, sha256 } }
  } catch (error) {
    return { obstacle: { code: 'answer-missing', detail: shortly(error), markup: '' } }
  } finally {
    await file.delete().catch(() => {})
  }
}
