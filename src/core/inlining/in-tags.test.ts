import { parseFragment, defaultTreeAdapter as tree, type DefaultTreeAdapterTypes } from 'parse5'
import sanitizeHtml from 'sanitize-html'
import { content, form, spot } from '../../../tests/tables/samples'
import { inTagsCode } from '.'

const code = inTagsCode({ content, form: form.id, version: 1, spot: spot.id, receiver: 'https://forms.example' })

function elementsOf(html: string) {
  const found: { tag: string; style: string; attributes: Record<string, string> }[] = []
  const visit = (node: DefaultTreeAdapterTypes.ChildNode) => {
    if (!tree.isElementNode(node)) return
    const attributes = Object.fromEntries(node.attrs.map(({ name, value }) => [name, value]))
    found.push({ tag: node.tagName, style: attributes.style ?? '', attributes })
    node.childNodes.forEach(visit)
  }
  parseFragment(html).childNodes.forEach(visit)
  return found
}

test('it has no style sheet and no custom property; every part has its own styles', () => {
  const all = elementsOf(code)
  expect(all.some(({ tag }) => tag === 'style')).toBe(false)
  expect(code).not.toMatch(/var\(|--askbox/)
  const styleOf = (name: string) =>
    all.find(({ attributes }) => attributes.class?.split(' ').includes(name))?.style ?? ''
  expect(styleOf('askbox-card')).toContain(`background:${content.look.colours.background}`)
  expect(styleOf('askbox-button')).toContain(`background:${content.look.colours.button}`)
  // A class counts for more than a tag, whichever comes later.
  expect(styleOf('askbox-input')).toContain('all:revert')
  expect(styleOf('askbox-more')).toMatch(/display:none/)
})

test('a sanitizer that keeps forms and style attributes leaves it whole', () => {
  const kept = sanitizeHtml(code, {
    allowedTags: sanitizeHtml.defaults.allowedTags.concat(['form', 'input', 'label', 'button']),
    allowedAttributes: false,
  })
  expect(elementsOf(kept).map(({ tag, style }) => [tag, style])).toEqual(
    elementsOf(code).map(({ tag, style }) => [tag, style]),
  )
})
