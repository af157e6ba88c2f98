import type { Locator } from 'playwright-core'
import type { Fill, Obstacle } from '#core/rehearsal'
import type { TypingPerson } from './person'
import { markupOf, trouble } from './waiting'

/** Longer texts come at once, as from the clipboard. */
const MOST_TYPED = 60

/** Fills in a form question by question, and checks that typed values stay. */
export class Filling {
  /** Typed values. */
  readonly typed: { control: Locator; text: string; name: string }[] = []

  constructor(private readonly person: TypingPerson) {}

  async fill(form: Locator, { name, value }: Fill, keyMs = 0): Promise<Obstacle | null> {
    const named = form.locator(`[name="${name.replaceAll('"', '')}"]`)
    if ((await named.count()) === 0)
      return (await this.stillThere(form)) ?? { code: 'field-missing', detail: name, markup: '' }
    const first = named.first()
    const { type, isLocked } = await first.evaluate((one) => {
      const control = one as HTMLInputElement
      return {
        type: control.localName === 'input' ? control.type : control.localName,
        isLocked: control.matches(':disabled')
          ? 'is switched off'
          : control.readOnly
            ? 'can be read and not written in'
            : '',
      }
    })
    const locked = async (what: string): Promise<Obstacle> => ({
      code: 'field-locked',
      detail: `“${name}” ${what}`,
      markup: await markupOf(first),
    })
    if (type === 'hidden') return null
    if (isLocked !== '') return locked(isLocked)
    await this.turnTo(form, first)
    try {
      if (type === 'radio' || type === 'checkbox') {
        const box =
          value === null ? first : form.locator(`[name="${name}"][value="${value.replaceAll('"', '')}"]`).first()
        return await this.tick(form, box, name)
      }
      // What she types is looked at with the field.
      const isTyped = type !== 'select' && type !== 'date'
      const at = await this.person.sight(first, { isDrawn: !isTyped })
      if (!('area' in at)) return at
      if (type === 'select') {
        await first.selectOption(value)
        return null
      }
      if (type === 'date') {
        await first.fill(value ?? '')
        return null
      }
      await this.person.pressAt(at)
      if ((await first.inputValue()) !== '') await first.fill('')
      const text = value ?? ''
      if (text.length > MOST_TYPED || /[^\x20-\x7e\n]/.test(text)) await this.person.page.keyboard.insertText(text)
      else await this.person.page.keyboard.type(text, { delay: keyMs })
      const took = await first.inputValue()
      if (!isSame(took, text)) return await locked(`took “${took.slice(0, 80)}” of “${text.slice(0, 80)}”`)
      this.typed.push({ control: first, text, name })
      // What she typed has to be read.
      const unseen = await this.person.drawn(first, at.area)
      return unseen === null || (await this.person.settled(first, at)) ? null : await this.person.undrawn(first, unseen)
    } catch (error) {
      const met = await this.person.sight(first).catch(() => null)
      return met !== null && !('area' in met) ? met : trouble(error, name)
    }
  }

  /** Typed values that changed or vanished. */
  async changedMeanwhile(): Promise<Obstacle | null> {
    for (const { control, text, name } of this.typed) {
      const now = await control.inputValue({ timeout: 500 }).catch(() => null)
      if (now !== null && !isSame(now, text))
        return {
          code: 'field-locked',
          detail: `“${name}” was “${text.slice(0, 80)}” and became “${now.slice(0, 80)}” by itself`,
          markup: await markupOf(control),
        }
    }
    return null
  }

  /** Whether the form was taken away since it was found. */
  async stillThere(form: Locator): Promise<Obstacle | null> {
    if ((await form.count()) > 0) return null
    return {
      code: 'hidden',
      detail: 'It was there at first, and was taken away while it was being filled in',
      markup: '',
    }
  }

  /** Turns on to the step that something stands in, or to the last. */
  async turnTo(form: Locator, control: Locator | null): Promise<void> {
    const steps = form.locator('.askbox-step')
    const count = await steps.count()
    for (let turns = 0; turns < count; turns += 1) {
      const open = await steps.evaluateAll((all) => all.findIndex((one) => !(one as HTMLElement).hidden))
      const wanted =
        control === null
          ? count - 1
          : await control.evaluate((one) => {
              const all = [...(one.closest('form')?.querySelectorAll('.askbox-step') ?? [])]
              return all.indexOf(one.closest('.askbox-step')!)
            })
      if (wanted < 0 || open < 0 || open >= wanted) return
      const next = steps.nth(open).locator('.askbox-turns button').last()
      if ((await next.count()) === 0) return
      const at = await this.person.sight(next)
      if (!('area' in at)) return
      await this.person.pressAt(at)
    }
  }

  private async tick(form: Locator, box: Locator, name: string): Promise<Obstacle | null> {
    if (await box.isChecked()) return null
    const id = await box.getAttribute('id')
    const label = id === null ? null : form.locator(`label[for="${id}"]`).first()
    const around = form.locator('label', { has: box }).first()
    // Its words are pressed as often as the box itself, which many sites draw anew and hide.
    const targets: Locator[] = []
    for (const one of [box, label, around]) if (one !== null && (await one.count()) > 0) targets.push(one)
    for (const target of targets) {
      const at = await this.person.glance(target)
      if (!('area' in at)) continue
      await this.person.pressAt(at)
      if (await box.isChecked()) return null
    }
    const at = await this.person.sight(targets.at(-1)!)
    if (!('area' in at)) return at
    await this.person.pressAt(at)
    if (await box.isChecked()) return null
    return { code: 'field-locked', detail: `“${name}” cannot be ticked`, markup: await markupOf(box) }
  }
}

function isSame(one: string, other: string): boolean {
  const plain = (text: string) => text.trim().replaceAll('\r\n', '\n')
  return plain(one) === plain(other)
}
