import { onScopeDispose } from 'vue'
import type { UndoRedo } from './document'

/** Ctrl+Z undoes, Ctrl+Shift+Z does again (Command on a Mac). */
export function undoByKeys(event: KeyboardEvent, document: UndoRedo): void {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
  event.preventDefault()
  if (event.shiftKey) document.redo()
  else document.undo()
}

/** The same from anywhere in the window, for the document that is seen. */
export function useUndoKeys(seen: () => UndoRedo): void {
  const onKey = (event: KeyboardEvent) => undoByKeys(event, seen())
  addEventListener('keydown', onKey)
  onScopeDispose(() => removeEventListener('keydown', onKey))
}
