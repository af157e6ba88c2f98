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
