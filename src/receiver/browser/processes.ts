import { readdirSync, readFileSync } from 'node:fs'

/** Marks the first process of one run of a browser; some of those that it starts write over their surroundings. */
export const RUN = 'ASKBOX_BROWSER_RUN'

/** The processes of a run, with all that they started. */
function processesOf(run: string): number[] {
  const mark = `${RUN}=${run}`
  const children = new Map<number, number[]>()
  const processes = new Set<number>()
  let all: number[]
  try {
    all = readdirSync('/proc').flatMap((name) => (/^\d+$/.test(name) ? [Number(name)] : []))
  } catch {
    return []
  }
  for (const id of all) {
    try {
      const parent = Number(/\) \S (\d+)/.exec(readFileSync(`/proc/${id}/stat`, 'latin1'))?.[1])
      children.set(parent, [...(children.get(parent) ?? []), id])
      if (readFileSync(`/proc/${id}/environ`, 'latin1').includes(mark)) processes.add(id)
    } catch {
      // Another user's, or ended meanwhile.
    }
  }
  // Items added during iteration are visited too.
  for (const id of processes) for (const child of children.get(id) ?? []) processes.add(child)
  return [...processes]
}

/** Of its own pages alone, in bytes: what processes share would count many times. 0 where the system does not tell. */
export function memoryOf(run: string): number {
  return processesOf(run).reduce((sum, id) => {
    try {
      return sum + 1024 * Number(/^RssAnon:\s+(\d+)/m.exec(readFileSync(`/proc/${id}/status`, 'latin1'))?.[1] ?? 0)
    } catch {
      return sum
    }
  }, 0)
}

/** What a computer's processors did until now, in milliseconds: all of them together, and the threads of one run by themselves. */
export interface ProcessorTimes {
  all: number
  idle: number
  byThread: Map<string, number>
}

/** Null where the system does not tell. Linux, proc_stat(5) and Documentation/scheduler/sched-stats. */
export function processorTimes(run: string): ProcessorTimes | null {
  const byThread = new Map<string, number>()
  try {
    const [user, nice, system, idle, iowait, irq, softirq, steal] = readFileSync('/proc/stat', 'latin1')
      .split('\n')[0]!
      .split(/\s+/)
      .slice(1)
      .map((ticks) => Number(ticks) * TICK_MS)
    for (const id of processesOf(run))
      for (const thread of readdirSync(`/proc/${id}/task`)) byThread.set(thread, ranFor(id, thread))
    const busy = user! + nice! + system! + irq! + softirq! + steal!
    return { all: busy + idle! + iowait!, idle: idle! + iowait!, byThread }
  } catch {
    return null
  }
}

function ranFor(id: number, thread: string): number {
  try {
    return Number(readFileSync(`/proc/${id}/task/${thread}/schedstat`, 'latin1').split(' ')[0]) / 1e6
  } catch {
    // Ended meanwhile.
    return 0
  }
}

/** Which share of all processors others had meanwhile, 0 to 1; 0 where it is not known. */
export function takenByOthers(before: ProcessorTimes | null, after: ProcessorTimes | null): number {
  if (before === null || after === null || after.all - before.all < LEAST_MS) return 0
  let own = 0
  for (const [thread, ran] of after.byThread) own += Math.max(0, ran - (before.byThread.get(thread) ?? 0))
  const busy = after.all - before.all - (after.idle - before.idle)
  return Math.max(0, busy - own) / (after.all - before.all)
}

/** USER_HZ is 100 on all architectures that matter here. */
const TICK_MS = 10
/** With less there is nothing to compare. */
const LEAST_MS = 100

export function kill(run: string): void {
  for (const id of processesOf(run)) {
    try {
      process.kill(id, 'SIGKILL')
    } catch {
      // Ended meanwhile.
    }
  }
}
