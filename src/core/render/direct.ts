import type { Direct } from '#core/form'
import { type Element, element, type Node } from './node'

/**
 * A form as it posts straight to a service: its controls under the service's names, its choices with the service's values,
 * what is sent with every form, the service's own trap, and nothing of ours.
 */
export function directForm(form: Element, direct: Direct): Element {
  const { action, method, charset, fixed, trap, button } = direct
  const inner = form.children.flatMap((child) => renamed(child, direct))
  return {
    ...form,
    attributes: { ...form.attributes, action, method, 'accept-charset': charset || 'utf-8' },
    children: [
      ...inner,
      ...fixed.map(({ name, value }) => element('input', { type: 'hidden', name, value })),
      ...(trap === null ? [] : [trapNode(trap)]),
      // Where a form is sent by the Enter key, scripts of pages may leave the button out.
      ...(button === null || inner.some(hasSubmit) ? [] : [element('input', { type: 'hidden', ...button })]),
    ],
  }
}

const hasSubmit = (node: Node): boolean =>
  typeof node !== 'string' && (node.attributes.type === 'submit' || node.children.some(hasSubmit))

function renamed(node: Node, direct: Direct): Node[] {
  if (typeof node === 'string') return [node]
  const { attributes } = node
  const name = attributes.name
  // Our version, our page, our trap.
  if (typeof name === 'string' && name.startsWith('askbox-')) return []
  if (
    String(attributes.class ?? '')
      .split(' ')
      .includes('askbox-more')
  )
    return []
  const children = (node.tag === 'select' ? node : withChildren(node, direct)).children
  if (attributes.type === 'submit' && node.tag === 'button')
    return [
      {
        ...node,
        attributes: {
          ...attributes,
          formaction: direct.action,
          formmethod: direct.method,
          ...(direct.button !== null && { name: direct.button.name, value: direct.button.value }),
        },
        children,
      },
    ]
  if (typeof name !== 'string') return [{ ...node, children }]
  const control = direct.controls.find((one) => one.control === name)
  // Fields that the service's form lacks are not sent.
  if (control === undefined) return [{ ...node, attributes: { ...attributes, name: undefined }, children }]
  const valueOf = (key: unknown) =>
    control.values !== undefined && typeof key === 'string' && Object.hasOwn(control.values, key)
      ? control.values[key]
      : (key as string | undefined)
  if (node.tag === 'select')
    return [
      {
        ...node,
        attributes: { ...attributes, name: control.name },
        children: node.children.map((option) =>
          typeof option === 'string' || option.tag !== 'option'
            ? option
            : { ...option, attributes: { ...option.attributes, value: valueOf(option.attributes.value) } },
        ),
      },
    ]
  const value = control.value ?? (attributes.type === 'radio' ? valueOf(attributes.value) : attributes.value)
  return [{ ...node, attributes: { ...attributes, name: control.name, value }, children }]
}

function withChildren(node: Element, direct: Direct): Element {
  return { ...node, children: node.children.flatMap((child) => renamed(child, direct)) }
}

function trapNode(name: string): Element {
  return element(
    'div',
    { class: 'askbox-more', hidden: true, inert: true, 'aria-hidden': 'true', style: 'display:none' },
    element('input', {
      type: 'text',
      name,
      value: '',
      tabindex: '-1',
      autocomplete: 'off',
      'aria-label': 'Leave this empty',
    }),
  )
}
