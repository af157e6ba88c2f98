import { parseFragment, defaultTreeAdapter as tree } from 'parse5'
import { withNamesAsText } from './series-names'

test.each(['"><img src=x onerror="window.ran=1">', '<script>window.ran=1</script>', 'Tom & Ann', 'a < b', '&lt;b&gt;'])(
  'the chart takes names of series for HTML, and is told them as text: %s',
  (name) => {
    const { series } = withNamesAsText({ series: [{ name, data: [1] }] })!
    const told = (series as { name: string }[])[0]!.name
    const nodes = parseFragment(told).childNodes
    expect(nodes.every((node) => tree.isTextNode(node))).toBe(true)
    expect(nodes.map((node) => (tree.isTextNode(node) ? node.value : '')).join('')).toBe(name)
  },
)
