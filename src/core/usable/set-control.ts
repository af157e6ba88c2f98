/** What a control of a form is to a program that fills it in: any of the DOM's are. */
interface Control {
  type: string
  value: string
  checked: boolean
}

/**
 * Does a fill to one of the controls of its name, in a browser; see `Fill`.
 *
 * @param value typed; of buttons, the one chosen; null ticks a box
 */
export function setControl(control: Control, value: string | null): void {
  if (value === null) control.checked = true
  else if (control.type === 'radio') control.checked = control.value === value
  else control.value = value
}
