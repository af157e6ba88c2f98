import { defineStore } from 'pinia'
import { ref } from 'vue'

export interface Notice {
  id: number
  text: string
  kind: 'done' | 'problem'
  /** Takes back what the notice tells of. */
  undo?: () => unknown
  /** Whether that can still be done. Where it is not said, it can. */
  canUndo?: () => boolean
}

const DONE_STAYS_MS = 8_000

/** Short messages at the foot of the window: what was done, with its undo; what went wrong, until it is read. */
export const useNotices = defineStore('notices', () => {
  const notices = ref<Notice[]>([])
  let count = 0

  function show(notice: Omit<Notice, 'id'>): void {
    const id = ++count
    notices.value = [...notices.value.slice(-2), { id, ...notice }]
    if (notice.kind === 'done') setTimeout(() => close(id), DONE_STAYS_MS)
  }
  const done = (text: string, undo?: () => unknown, canUndo?: () => boolean) =>
    show({ text, kind: 'done', undo, canUndo })
  const problem = (text: string) => show({ text, kind: 'problem' })
  const close = (id: number) => {
    notices.value = notices.value.filter((notice) => notice.id !== id)
  }
  return { notices, done, problem, close }
})
