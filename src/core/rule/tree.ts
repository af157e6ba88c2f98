/**
 * What is asked of a page's elements, so that one reading serves a browser's page and parsed HTML alike. Implemented by
 * `core/usable`, and by the visitors' script over the DOM.
 */
export interface Tree<Element> {
  body: Element
  /** In small letters. */
  tag(element: Element): string
  attribute(element: Element, name: string): string | null
  children(element: Element): Element[]
  /** Null above `<body>`. */
  parent(element: Element): Element | null
  /** All text within. */
  text(element: Element): string
  /** Text that stands in the element itself, between what is within. */
  ownText(element: Element): string
  /** In tree order. Throws for what is no selector. */
  select(selector: string): Element[]
  matches(element: Element, selector: string): boolean
}
