import { complain } from '../log'
import { newId } from '../random'
import type { Values } from '../values'

const BEAT_MS = 2_000
/** Without a beat for so long, whoever was at it is gone. */
const GONE_MS = 15_000
const KEPT_MS = 24 * 3_600_000

interface Kept<Progress> {
  run: string
  beatAt: number
  isStopped: boolean
  hasEnded: boolean
  progress: Progress
}

/** A long piece of work in the hands of this process. */
export interface Run<Progress> {
  /** Told to whoever asks, within two seconds. */
  report(progress: Progress): void
  /** Whether it is to stop: somebody said so, on whatever receiver, or began it anew. */
  isStopped(): boolean
  /** It is over; without an argument, as it was reported last. */
  end(progress?: Progress): Promise<void>
}

/**
 * Long work of which there is one at a time by name, begun on one receiver, and looked at and stopped from any of those
 * that share the store. What its process leaves behind when it is killed is told as broken off.
 */
export class UnderWay<Progress> {
  /** Those in the hands of this process: what it does itself it knows at once. */
  private readonly here = new Map<string, { progress(): Progress; stop(): void }>()

  constructor(
    private readonly values: Values,
    private readonly now: () => number,
    private readonly kind: string,
  ) {}

  /** How far it is; null where there is none. */
  async state(name: string): Promise<{ progress: Progress; state: 'going' | 'ended' | 'stopped' | 'gone' } | null> {
    const own = this.here.get(name)
    if (own !== undefined) return { progress: own.progress(), state: 'going' }
    const kept = (await this.values.value(this.keyOf(name))) as Kept<Progress> | null
    if (kept === null) return null
    const isGone = Math.abs(this.now() - kept.beatAt) > GONE_MS
    const state = kept.hasEnded ? 'ended' : isGone ? 'gone' : kept.isStopped ? 'stopped' : 'going'
    return { progress: kept.progress, state }
  }

  async stop(name: string): Promise<void> {
    this.here.get(name)?.stop()
    this.here.delete(name)
    await this.values.change<Kept<Progress>>(
      this.keyOf(name),
      (kept) => (kept === null || kept.hasEnded ? (kept ?? undefined) : { ...kept, isStopped: true }),
      this.now() + KEPT_MS,
    )
  }

  async forget(name: string): Promise<void> {
    await this.values.drop(this.keyOf(name))
  }

  /** Begins it; whoever is at it already stops. */
  async begin(name: string, first: Progress): Promise<Run<Progress>> {
    const { values, now, here } = this
    here.get(name)?.stop()
    const key = this.keyOf(name)
    const run = newId<string>()
    let progress = first
    let isStopped = false
    const own = { progress: () => progress, stop: () => void (isStopped = true) }
    here.set(name, own)
    const write = async (hasEnded: boolean): Promise<void> => {
      const kept = await values.change<Kept<Progress>>(
        key,
        (before) =>
          before === null ? undefined : before.run === run ? { ...before, progress, hasEnded, beatAt: now() } : before,
        now() + KEPT_MS,
      )
      isStopped ||= kept === null || kept.run !== run || kept.isStopped
    }
    const kept: Kept<Progress> = { run, beatAt: now(), isStopped: false, hasEnded: false, progress }
    await values.keep(key, kept, now() + KEPT_MS)
    const beat = setInterval(() => void write(false).catch(complain), BEAT_MS)
    beat.unref()
    return {
      report: (news) => void (progress = news),
      isStopped: () => isStopped,
      async end(last = progress) {
        clearInterval(beat)
        progress = last
        if (here.get(name) === own) here.delete(name)
        await write(true)
      },
    }
  }

  private keyOf(name: string): string {
    return `under way ${this.kind} ${name}`
  }
}
