export const root: string
export function installDependencies(): void
export function build(): Promise<void>
export function findChromium(): string
