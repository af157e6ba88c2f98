import { type DefaultTreeAdapterTypes as Html, serializeOuter } from 'parse5'
import { evidence, type Failure, failure } from '#core/proof'
import { ancestorsOf, attribute, elementsBelow, type FormOnPage, isDisabled, textIn, typeOf } from '#core/submission'
import { buttonOf, type Fill, filledIn } from './fill'
import type { visibilityOn } from './visibility'

/** A form that is to be filled in and sent, and how it is tried. */
interface Tried {
  page: Html.Document
  form: FormOnPage
  button: Html.Element
  action: string
  /** What is filled in where. */
  touches: ReturnType<typeof filledIn>['touches']
  /** Whether browsers check what was filled in. */
  isChecked: boolean
  visibility: ReturnType<typeof visibilityOn>
}

/**
 * What keeps a form that is there and in sight from being filled in and sent by hand, as far as markup tells; null for
 * nothing. HTML Living Standard, sections 4.10.18 to 4.10.22.
 */
export function obstacleIn({
  page,
  form,
  action,
  fills,
  visibility,
}: {
  page: Html.Document
  form: FormOnPage
  action: string
  fills: readonly Fill[]
  visibility: ReturnType<typeof visibilityOn>
}): Failure | null {
  const button = buttonOf(form, action)
  if (button === null) return noButton(form.form)
  const isChecked = attribute(form.form, 'novalidate') === null && attribute(button, 'formnovalidate') === null
  const tried: Tried = { page, form, button, action, isChecked, visibility, touches: filledIn(form, fills).touches }
  for (const obstacle of obstacles) {
    const failed = obstacle(tried)
    if (failed !== null) return failed
  }
  return null
}

/** In the order in which they are told: the first one is the reason. */
const obstacles: readonly ((tried: Tried) => Failure | null)[] = [
  disabledButton,
  sentElsewhere,
  withinLink,
  stoppedByHandler,
  lockedField,
  doubledField,
  foreignRequired,
  unseenAnswer,
]

const shown = (element: Html.Element) => evidence('markup', serializeOuter(element).slice(0, 1_500))

function noButton(form: Html.Element): Failure {
  return failure(
    'no-button',
    'page',
    {
      expected: 'A button that sends the form.',
      happened: 'There is none: pressing what looks like one does nothing by itself.',
      cause: 'The button’s type was changed (type="button"), or the button was taken out.',
      mend: 'Paste the code anew, or give the button the type “submit”.',
    },
    shown(form),
  )
}

function disabledButton({ button }: Tried): Failure | null {
  if (!isDisabled(button)) return null
  return failure(
    'button-disabled',
    'page',
    {
      expected: 'A button that can be pressed.',
      happened: 'It is disabled.',
      cause: 'Something on the page switches the button, or the fields around it, off.',
      mend: 'Take “disabled” away from it, or paste the code anew.',
    },
    shown(button),
  )
}

function sentElsewhere({ form, button, action }: Tried): Failure | null {
  const elsewhere = whereItIsSent(form.form, button, action)
  if (elsewhere === null) return null
  return failure(
    'sent-elsewhere',
    'page',
    {
      expected: 'Pressing the button sends the form to the receiver.',
      happened: elsewhere,
      cause: 'The form’s or the button’s own attributes were changed on the page.',
      mend: 'Paste the code anew.',
    },
    shown(button),
  )
}

function withinLink({ form }: Tried): Failure | null {
  const link = [...ancestorsOf(form.form)].find((one) => one.tagName === 'a' && attribute(one, 'href') !== null)
  if (link === undefined) return null
  return failure(
    'within-link',
    'page',
    {
      expected: 'A press on a field puts the cursor into it.',
      happened: `It follows the link around the form, to ${attribute(link, 'href')!.slice(0, 200)}.`,
      cause: 'The code was pasted within a link.',
      mend: 'Take the link away, or paste the code beside it.',
    },
    shown(link),
  )
}

function stoppedByHandler({ form, button }: Tried): Failure | null {
  // Handlers that only look are none of our business; this one says by itself that nothing is sent.
  const stops = [
    ['onsubmit', form.form],
    ['onclick', button],
  ] as const
  for (const [name, element] of stops)
    if (/\breturn\s+false\b|preventDefault\s*\(/.test(attribute(element, name) ?? ''))
      return failure(
        'submit-stopped',
        'page',
        {
          expected: 'Pressing the button sends the form.',
          happened: `The page stops it: ${name}="${attribute(element, name)}".`,
          cause: 'Somebody, or the site’s editor, put a handler on it that sends nothing.',
          mend: `Take “${name}” away.`,
        },
        shown(element),
      )
  return null
}

function lockedField({ isChecked, touches }: Tried): Failure | null {
  for (const [control, { value = '' }] of touches) {
    const most = Number(attribute(control, 'maxlength') ?? NaN)
    const least = isChecked ? Number(attribute(control, 'minlength') ?? NaN) : NaN
    const what = isDisabled(control)
      ? 'is disabled'
      : attribute(control, 'readonly') !== null
        ? 'can be read and not written in'
        : most >= 0 && most < LEAST_ROOM && value.length > most
          ? `takes ${most} characters`
          : least > MOST_WANTED && value.length < least
            ? `wants at least ${least} characters`
            : null
    if (what !== null)
      return failure(
        'field-locked',
        'page',
        {
          expected: `“${attribute(control, 'name')}” can be filled in.`,
          happened: `It ${what}.`,
          cause: 'The field was changed on the page.',
          mend: 'Paste the code anew.',
        },
        shown(control),
      )
  }
  return null
}

function doubledField({ form, touches }: Tried): Failure | null {
  // The receiver would be sent two answers to one question.
  for (const control of touches.keys()) {
    const name = attribute(control, 'name')
    const named = form.controls.filter((one) => attribute(one, 'name') === name && !isDisabled(one))
    if (named.length > 1 && named.every((one) => !['radio', 'checkbox', 'submit', 'button'].includes(typeOf(one))))
      return failure(
        'field-locked',
        'page',
        {
          expected: `One field named “${name}”.`,
          happened: `There are ${named.length}: what is typed in one may not be what is taken.`,
          cause: 'A field of the same name was put into the form, or the code stands within another form that has one.',
          mend: 'Take the other field away, or put the code outside of that form.',
        },
        shown(named[1]!),
      )
  }
  return null
}

function foreignRequired({ form, isChecked, touches }: Tried): Failure | null {
  const others = form.controls.find(
    (control) =>
      isChecked &&
      attribute(control, 'required') !== null &&
      !touches.has(control) &&
      !isDisabled(control) &&
      ['text', 'search', 'tel', 'url', 'email', 'password', 'number', 'date', 'checkbox', 'textarea'].includes(
        typeOf(control),
      ) &&
      (attribute(control, 'value') ?? textIn(control)).trim() === '',
  )
  if (others === undefined) return null
  return failure(
    'foreign-required',
    'page',
    {
      expected: 'Only this form’s own questions have to be answered.',
      happened: `The page asks one more that is required, “${attribute(others, 'name') ?? attribute(others, 'id') ?? 'without a name'}”.`,
      cause: 'The code stands within another form, whose fields browsers check as well.',
      mend: 'Put the code outside of that form, or use a frame or a link.',
    },
    shown(others),
  )
}

function unseenAnswer({ page, form, button, visibility }: Tried): Failure | null {
  const target = attribute(button, 'formtarget') ?? attribute(form.form, 'target') ?? ''
  const frame = elementsBelow(page).find(
    (element) => element.tagName === 'iframe' && target !== '' && attribute(element, 'name') === target,
  )
  const isUnseen =
    frame !== undefined &&
    (visibility.hiddenBy(frame) !== null || ['width', 'height'].some((one) => Number(attribute(frame, one) ?? NaN) < 2))
  return isUnseen
    ? failure(
        'answer-unseen',
        'page',
        {
          expected: 'Visitors see the answer.',
          happened: `It goes into the frame “${target}”, which nobody sees.`,
          cause: 'The form’s target is a hidden frame, as code for sending without leaving the page has it.',
          mend: 'Take “target” away from the form.',
        },
        shown(frame),
      )
    : null
}

/** HTML, section 4.10.21.3: what a button says of action, method and encoding goes before what its form says. */
function whereItIsSent(form: Html.Element, button: Html.Element, action: string): string | null {
  const said = (name: string) => attribute(button, `form${name}`) ?? attribute(form, name) ?? ''
  if (said('action') !== action) return `It sends to ${said('action').slice(0, 200) || 'the page itself'}.`
  if (said('method').toLowerCase() !== 'post')
    return 'It is not posted: what was typed would stand in an address, and the receiver takes none of it.'
  if (said('enctype').toLowerCase() === 'text/plain')
    return 'It is sent as plain text (enctype), which the receiver cannot read.'
  return null
}

/** Nobody is asked for more characters than an address has. */
const MOST_WANTED = 6
/** An address or a name has more room than this on every form of ours. */
const LEAST_ROOM = 60
