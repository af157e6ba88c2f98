import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html } from 'parse5'
import { attribute } from '#core/submission'

/** A parsed page as css-select reads it. */
export const treeAdapter = {
  isTag: (node: Html.Node): node is Html.Element => tree.isElementNode(node),
  getAttributeValue: (element: Html.Element, name: string) => attribute(element, name) ?? undefined,
  getChildren: (node: Html.Node): Html.ChildNode[] => ('childNodes' in node ? node.childNodes : []),
  getName: (element: Html.Element) => element.tagName,
  getParent: (node: Html.Node): Html.Element | null =>
    'parentNode' in node ? ((node.parentNode as Html.Element | null) ?? null) : null,
  getSiblings: (node: Html.Node): Html.Node[] =>
    'parentNode' in node && node.parentNode ? (node.parentNode as Html.Element).childNodes : [node],
  getText: () => '',
  hasAttrib: (element: Html.Element, name: string) => attribute(element, name) !== null,
  removeSubsets: (nodes: Html.Node[]): Html.Node[] => nodes,
}
