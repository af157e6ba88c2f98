import { caniemail } from 'caniemail'
import { type ConfigData, HtmlValidate, type ResolvedConfig, StaticConfigLoader } from 'html-validate'

/** An HTML checker that works out its configuration once; left alone, it does at each text, which takes longer than checking it. */
export function htmlChecker(config: ConfigData): HtmlValidate {
  return new HtmlValidate(new OnceResolved(config))
}

class OnceResolved extends StaticConfigLoader {
  private resolved: ResolvedConfig | Promise<ResolvedConfig> | null = null

  override getConfigFor(handle: string): ResolvedConfig | Promise<ResolvedConfig> {
    return (this.resolved ??= super.getConfigFor(handle))
  }
}

/** What the table of a registry package says that large mail programs do not show, of what carries a layout. */
export function unsupportedInMail(html: string): string[] {
  const { issues } = caniemail({
    clients: ['gmail.*', 'outlook.windows', 'apple-mail.macos', 'apple-mail.ios', 'yahoo.desktop-webmail'],
    html,
  })
  const titles = [...issues.errors.keys()].flatMap((client) =>
    [...(issues.errors.get(client) ?? [])].map(({ title }) => title),
  )
  // Rounded corners, hover and dark colours may be missing.
  const carries =
    /flex|grid|position|float|svg|calc|custom propert|form|script|input|background-image|<table|<td|@import/i
  return titles.filter((title) => carries.test(title) && title !== 'text-transform' && title !== 'transform')
}

/** What a checker of HTML has against a mail's. */
export async function mailMarkupProblems(html: string): Promise<string[]> {
  mailChecker ??= htmlChecker({
    extends: ['html-validate:recommended'],
    // Old mail programs need what the standard has left behind: layout by tables, styles in the tags.
    rules: Object.fromEntries(LEFT_BEHIND.map((rule) => [rule, 'off'])),
  })
  const report = await mailChecker.validateString(html)
  return report.results.flatMap(({ messages }) => messages.map(({ ruleId, message }) => `${ruleId}: ${message}`))
}
let mailChecker: HtmlValidate | null = null

const LEFT_BEHIND = [
  ...['deprecated', 'no-deprecated-attr', 'no-inline-style', 'no-trailing-whitespace', 'attribute-boolean-style'],
  ...['no-conditional-comment', 'doctype-style', 'void-style', 'element-required-attributes'],
  ...['no-implicit-button-type', 'attribute-empty-style', 'long-title', 'no-redundant-role'],
  ...['attribute-allowed-values', 'attr-spacing', 'no-unknown-elements', 'prefer-native-element'],
  ...['aria-label-misuse', 'no-raw-characters', 'meta-refresh', 'element-permitted-content'],
]
