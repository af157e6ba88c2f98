import { X } from '@lucide/vue'
import { ElButton, ElNotification, type NotificationHandle } from 'element-plus'
import { h, type VNode } from 'vue'

interface Notice {
  text: string
  kind: 'done' | 'problem'
  /** Takes back what the notice tells of. */
  undo?: () => unknown
  /** Whether that can still be done. Where it is not said, it can. */
  canUndo?: () => boolean
  /** Where what was done can be seen, and what is likely next. */
  ways?: NoticeWay[]
}

export type NoticeWay = { words: string; address: string } | { words: string; press(): unknown }

const DONE_STAYS_MS = 8_000
const shown: { kind: Notice['kind']; handle: NotificationHandle }[] = []

/**
 * Short messages in the bar at the top, beside nothing that is pressed next: what was done, with its undo; what went wrong,
 * until it is read. One of each at most, and none on another screen than the one it tells of.
 */
const notices = {
  done: (text: string, undo?: () => unknown, canUndo?: () => boolean, ways?: NoticeWay[]) =>
    show({ text, kind: 'done', undo, canUndo, ways }),
  problem: (text: string) => show({ text, kind: 'problem' }),
  /** Takes down what tells of something that cannot be undone any more, or of another screen. */
  clear: () => shown.slice().forEach(({ kind, handle }) => kind === 'done' && handle.close()),
}

export function useNotices() {
  return notices
}

function show({ text, kind, undo, canUndo, ways = [] }: Notice): void {
  for (const one of shown.slice()) if (one.kind === kind) one.handle.close()
  const handle: NotificationHandle = ElNotification({
    // The component's own cross is no button, so no key reaches it: this one is.
    showClose: false,
    message: (): VNode =>
      h('span', { class: 'words' }, [
        h('span', text),
        undo !== undefined && (canUndo?.() ?? true)
          ? h(ElButton, { link: true, onClick: () => (handle.close(), undo()) }, () => 'Undo')
          : null,
        ...ways.map((way) =>
          'address' in way
            ? h('a', { href: way.address, target: '_blank', rel: 'noreferrer' }, way.words)
            : h(ElButton, { link: true, onClick: () => (handle.close(), way.press()) }, () => way.words),
        ),
        h(
          ElButton,
          { link: true, class: 'close', 'aria-label': 'Close this message', onClick: () => handle.close() },
          () => h(X, { size: 16 }),
        ),
      ]),
    customClass: `notice ${kind}`,
    position: 'top-right',
    duration: kind === 'done' ? DONE_STAYS_MS : 0,
    onClose: () => shown.splice(0, shown.length, ...shown.filter((one) => one.handle !== handle)),
  })
  shown.push({ kind, handle })
}
